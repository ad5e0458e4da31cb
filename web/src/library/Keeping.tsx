import { Button, Group, Textarea } from "@mantine/core";
import { useInputState } from "@mantine/hooks";
import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useRef, useState } from "react";
import { useNavigate } from "react-router";
import { http, take } from "../api/client";
import { useMay } from "../api/queries";
import type { Recipe } from "../api/types";
import { Dialog } from "../ui/Form";
import { Refusal } from "../ui/Refusal";
import classes from "./library.module.css";

/** A recipe as a file, out and in; for engineers also its next edition, a copy, and taking it out of use. */
export function Keeping({ recipe: r }: { recipe: Recipe }) {
  const engineer = useMay("engineer");
  const queries = useQueryClient();
  const [editing, setEditing] = useState<string>();
  const [retiring, setRetiring] = useState(false);
  const file = useRef<HTMLInputElement>(null);
  const fresh = () => void queries.invalidateQueries({ queryKey: ["library"] });
  const open = useMutation({
    mutationFn: async (copy: boolean) => {
      const answer = await fetch(`/api/library/${r.id}/yaml`);
      if (!answer.ok) throw new Error();
      const text = await answer.text();
      return copy ? text.replace(/^id: .*$/m, `id: ${r.id}-copy`).replace(/^title: .*$/m, `title: ${r.title}, copy`) : text;
    },
    onSuccess: setEditing,
  });
  const back = useMutation({
    mutationFn: () => take(http.DELETE("/api/library/{recipe}/retired", { params: { path: { recipe: r.id } } })),
    onSuccess: fresh,
  });
  return (
    <Group gap={10} mb={12}>
      {[`${r.id}/yaml`, `${r.id}/json`, "schema"].map((file) => (
        <Button key={file} component="a" href={`/api/library/${file}`} download variant="default">
          {{ yaml: "YAML", json: "JSON" }[file.slice(-4)] ?? "Schema"}
        </Button>
      ))}
      {engineer && (
        <>
          <Button variant="default" loading={open.isPending} onClick={() => open.mutate(false)}>
            Edit
          </Button>
          <Button variant="default" onClick={() => open.mutate(true)}>
            Copy
          </Button>
          <Button variant="default" onClick={() => file.current?.click()}>
            Take a file in
          </Button>
          <input
            ref={file}
            type="file"
            accept=".yaml,.yml,.json"
            hidden
            aria-label="Recipe file"
            onChange={(e) => {
              const chosen = e.currentTarget.files?.[0];
              e.currentTarget.value = "";
              void chosen?.text().then(setEditing);
            }}
          />
          {r.retired ? (
            <Button variant="default" onClick={() => back.mutate()}>
              Take into use again
            </Button>
          ) : (
            <Button variant="default" onClick={() => setRetiring(true)}>
              Retire
            </Button>
          )}
        </>
      )}
      <Refusal error={open.error} />
      {editing !== undefined && <Editor file={editing} onClose={() => setEditing(undefined)} onKept={fresh} />}
      {retiring && <Retire recipe={r} onClose={() => setRetiring(false)} onDone={fresh} />}
    </Group>
  );
}

/** The recipe's file as text. What is wrong with it is said with its line, and nothing is taken. */
function Editor({ file, onClose, onKept }: { file: string; onClose: () => void; onKept: () => void }) {
  const navigate = useNavigate();
  const [text, setText] = useInputState(file);
  const keep = useMutation({
    mutationFn: () => take(http.POST("/api/library", { body: { file: text } })),
    onSuccess: (kept) => {
      onKept();
      onClose();
      void navigate(`/library/${kept.id}`);
    },
  });
  return (
    <Dialog
      title="The recipe’s file"
      size={1000}
      act="Keep this edition"
      no="Leave it"
      busy={keep.isPending}
      onClose={onClose}
      onAct={() => keep.mutate()}
    >
      <p className="soft">
        Kept as the next edition of its id, or as a new recipe where the id is new. Joints that are made by an earlier edition go on with
        it.
      </p>
      <textarea
        className={`mono field ${classes.editor}`}
        value={text}
        onChange={setText}
        spellCheck={false}
        aria-label="Recipe as YAML or JSON"
        name="file"
      />
      <Refusal error={keep.error} />
    </Dialog>
  );
}

function Retire({ recipe: r, onClose, onDone }: { recipe: Recipe; onClose: () => void; onDone: () => void }) {
  const [reason, setReason] = useInputState("");
  const retire = useMutation({
    mutationFn: () => take(http.PUT("/api/library/{recipe}/retired", { params: { path: { recipe: r.id } }, body: { reason } })),
    onSuccess: () => {
      onDone();
      onClose();
    },
  });
  return (
    <Dialog
      title={`Retire ${r.title}`}
      act="Retire it"
      color="stop"
      ready={reason.trim() !== ""}
      busy={retire.isPending}
      onClose={onClose}
      onAct={() => retire.mutate()}
    >
      <p>No new joint is made by it. Joints that have it go on.</p>
      <Textarea label="Why" name="reason" value={reason} onChange={setReason} minRows={2} data-autofocus />
      <Refusal error={retire.error} />
    </Dialog>
  );
}
