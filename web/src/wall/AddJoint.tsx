import { Button, Modal, NativeSelect, TextInput } from "@mantine/core";
import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { useNavigate } from "react-router";
import { http, take } from "../api/client";
import { useLibrary, useSession } from "../api/queries";
import { Glyph } from "../drawing/Glyph";
import { Refusal } from "../ui/Refusal";
import ui from "../ui/ui.module.css";
import classes from "./wall.module.css";

/** A new joint: what kind it is, by its drawing, its tag and its place. */
export function AddJoint({ onClose }: { onClose: () => void }) {
  const kinds = useLibrary().data?.recipes.filter((r) => !r.retired) ?? [];
  const [kind, setKind] = useState("");
  const session = useSession();
  const queries = useQueryClient();
  const navigate = useNavigate();
  const areas = session?.site.areas ?? [];
  const [tag, setTag] = useState("");
  const [title, setTitle] = useState("");
  const [area, setArea] = useState("");
  const add = useMutation({
    mutationFn: () => take(http.POST("/api/joints", { body: { tag, title, area: area || areas[0]!.id, recipe: kind } })),
    onSuccess: (j) => {
      queries.setQueryData(["joint", j.id], j);
      void queries.invalidateQueries({ queryKey: ["wall"] });
      void navigate(`/joint/${j.id}/1`);
    },
  });
  return (
    <Modal opened onClose={onClose} title={<b>Add a joint</b>} size={980}>
      <form
        className={ui.stack}
        onSubmit={(e) => {
          e.preventDefault();
          add.mutate();
        }}
      >
        <fieldset className={classes.kinds}>
          <legend>What kind of joint it is</legend>
          {kinds.map((r) => (
            <button key={r.id} type="button" aria-pressed={kind === r.id} onClick={() => setKind(r.id)} data-kind={r.id}>
              <Glyph figure={r.figure} size={56} />
              <span>{r.title}</span>
            </button>
          ))}
        </fieldset>
        <div className={classes.three}>
          <TextInput
            label="Tag, as on the drawing"
            value={tag}
            onChange={(e) => setTag(e.currentTarget.value)}
            placeholder="PS-1 / BYPASS"
          />
          <TextInput
            label="What it is"
            value={title}
            onChange={(e) => setTitle(e.currentTarget.value)}
            placeholder="Penstock bypass flange"
          />
          <NativeSelect
            label="Area"
            data={areas.map((a) => ({ value: a.id, label: a.name }))}
            value={area}
            onChange={(e) => setArea(e.currentTarget.value)}
          />
        </div>
        {add.isError && <Refusal error={add.error} />}
        <div className={ui.between}>
          <Button variant="default" onClick={onClose}>
            Not now
          </Button>
          <Button type="submit" color="now" loading={add.isPending} disabled={!kind || tag.trim().length < 2 || title.trim().length < 2}>
            Lay it out
          </Button>
        </div>
      </form>
    </Modal>
  );
}
