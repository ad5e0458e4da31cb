import { NativeSelect, SimpleGrid, TextInput } from "@mantine/core";
import { useInputState } from "@mantine/hooks";
import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { useNavigate } from "react-router";
import { http, take } from "../api/client";
import { useLibrary, useSession } from "../api/queries";
import { KindMark } from "../drawing/KindMark";
import { Dialog } from "../ui/Form";
import { Refusal } from "../ui/Refusal";
import classes from "./wall.module.css";
import { told, tr } from "../words/words";

/** A new joint: what kind it is, by its drawing, its tag and its place. */
export function AddJoint({ onClose }: { onClose: () => void }) {
  const kinds = useLibrary().data?.recipes.filter((r) => !r.retired) ?? [];
  const [kind, setKind] = useState("");
  const session = useSession();
  const queries = useQueryClient();
  const navigate = useNavigate();
  const areas = session?.site.areas ?? [];
  const [tag, setTag] = useInputState("");
  const [title, setTitle] = useInputState("");
  const [area, setArea] = useInputState("");
  const add = useMutation({
    mutationFn: () => take(http.POST("/api/joints", { body: { tag, title, area: area || areas[0]!.id, recipe: kind } })),
    onSuccess: (j) => {
      queries.setQueryData(["joint", j.id], j);
      void queries.invalidateQueries({ queryKey: ["wall"] });
      void navigate(`/joint/${j.id}/1`);
    },
  });
  return (
    <Dialog
      title={tr("Add a joint")}
      size={980}
      act={tr("Lay it out")}
      color="now"
      ready={Boolean(kind) && tag.trim().length > 1 && title.trim().length > 1}
      busy={add.isPending}
      onClose={onClose}
      onAct={() => add.mutate()}
    >
      <fieldset className={classes.kinds}>
        <legend>{tr("What kind of joint it is")}</legend>
        {kinds.map((r) => (
          <button key={r.id} type="button" className="pick" aria-pressed={kind === r.id} onClick={() => setKind(r.id)} data-kind={r.id}>
            <KindMark recipe={r} size={56} />
            <span>{told(r.title)}</span>
          </button>
        ))}
      </fieldset>
      <SimpleGrid cols={{ base: 1, sm: 3 }} spacing={12}>
        <TextInput label={tr("Tag, as on the drawing")} value={tag} onChange={setTag} placeholder={tr("PS-1 / BYPASS")} />
        <TextInput label={tr("What it is")} value={title} onChange={setTitle} placeholder={tr("Penstock bypass flange")} />
        <NativeSelect label={tr("Area")} data={areas.map((a) => ({ value: a.id, label: a.name }))} value={area} onChange={setArea} />
      </SimpleGrid>
      <Refusal error={add.error} />
    </Dialog>
  );
}
