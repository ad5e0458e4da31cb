import { Button, Modal, Textarea } from "@mantine/core";
import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useRef, useState } from "react";
import { useNavigate } from "react-router";
import { http, take } from "../api/client";
import { useMay } from "../api/queries";
import type { Recipe } from "../api/types";
import { Refusal } from "../ui/Refusal";
import ui from "../ui/ui.module.css";
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
    <div className={classes.keeping}>
      <a href={`/api/library/${r.id}/yaml`} download>
        YAML
      </a>
      <a href={`/api/library/${r.id}/json`} download>
        JSON
      </a>
      <a href="/api/library/schema" download>
        Schema
      </a>
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
      {open.isError && <Refusal error={open.error} />}
      {editing !== undefined && <Editor file={editing} onClose={() => setEditing(undefined)} onKept={fresh} />}
      {retiring && <Retire recipe={r} onClose={() => setRetiring(false)} onDone={fresh} />}
    </div>
  );
}

/** The recipe's file as text. What is wrong with it is said with its line, and nothing is taken. */
function Editor({ file, onClose, onKept }: { file: string; onClose: () => void; onKept: () => void }) {
  const navigate = useNavigate();
  const [text, setText] = useState(file);
  const keep = useMutation({
    mutationFn: () => take(http.POST("/api/library", { body: { file: text } })),
    onSuccess: (kept) => {
      onKept();
      onClose();
      void navigate(`/library/${kept.id}`);
    },
  });
  return (
    <Modal opened onClose={onClose} title={<b>The recipe’s file</b>} size={1000}>
      <div className={ui.stack}>
        <p className="soft">
          Kept as the next edition of its id, or as a new recipe where the id is new. Joints that are made by an earlier edition go on with
          it.
        </p>
        <textarea
          className={`mono ${classes.editor}`}
          value={text}
          onChange={(e) => setText(e.currentTarget.value)}
          spellCheck={false}
          aria-label="Recipe as YAML or JSON"
          name="file"
        />
        {keep.isError && <Refusal error={keep.error} />}
        <div className={ui.between}>
          <Button variant="default" onClick={onClose}>
            Leave it
          </Button>
          <Button color="plan" loading={keep.isPending} onClick={() => keep.mutate()}>
            Keep this edition
          </Button>
        </div>
      </div>
    </Modal>
  );
}

function Retire({ recipe: r, onClose, onDone }: { recipe: Recipe; onClose: () => void; onDone: () => void }) {
  const [reason, setReason] = useState("");
  const retire = useMutation({
    mutationFn: () => take(http.PUT("/api/library/{recipe}/retired", { params: { path: { recipe: r.id } }, body: { reason } })),
    onSuccess: () => {
      onDone();
      onClose();
    },
  });
  return (
    <Modal opened onClose={onClose} title={<b>Retire {r.title}</b>}>
      <form
        className={ui.stack}
        onSubmit={(e) => {
          e.preventDefault();
          retire.mutate();
        }}
      >
        <p>No new joint is made by it. Joints that have it go on.</p>
        <Textarea
          label="Why"
          name="reason"
          value={reason}
          onChange={(e) => setReason(e.currentTarget.value)}
          autosize
          minRows={2}
          maxLength={500}
          data-autofocus
        />
        {retire.isError && <Refusal error={retire.error} />}
        <div className={ui.between}>
          <Button variant="default" onClick={onClose}>
            Not now
          </Button>
          <Button type="submit" color="stop" disabled={!reason.trim()} loading={retire.isPending}>
            Retire it
          </Button>
        </div>
      </form>
    </Modal>
  );
}
