import { Button, Group, Modal, Textarea } from "@mantine/core";
import { useInputState } from "@mantine/hooks";
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useRef, useState } from "react";
import { Link, useNavigate } from "react-router";
import { http, take } from "../api/client";
import { useMay } from "../api/queries";
import type { Recipe } from "../api/types";
import { Dialog } from "../ui/Form";
import { dateTime } from "../ui/format";
import { Refusal } from "../ui/Refusal";
import { Changes } from "./edit/Changes";
import classes from "./library.module.css";
import { told, tr } from "../words/words";

/** A recipe as a file, out and in; for engineers also its next edition, a copy, and taking it out of use. */
export function Keeping({ recipe: r }: { recipe: Recipe }) {
  const engineer = useMay("engineer");
  const queries = useQueryClient();
  const navigate = useNavigate();
  const [comparing, setComparing] = useState(false);
  const [retiring, setRetiring] = useState(false);
  const file = useRef<HTMLInputElement>(null);
  const fresh = () => void queries.invalidateQueries({ queryKey: ["library"] });
  const back = useMutation({
    mutationFn: () => take(http.DELETE("/api/library/{recipe}/retired", { params: { path: { recipe: r.id } } })),
    onSuccess: fresh,
  });
  return (
    <Group gap={10} mb={12}>
      {[`${r.id}/yaml`, `${r.id}/json`, "schema"].map((file) => (
        <Button key={file} component="a" href={`/api/library/${file}`} download variant="default">
          {{ yaml: "YAML", json: "JSON" }[file.slice(-4)] ?? tr("Schema")}
        </Button>
      ))}
      {r.earlier > 0 && (
        <Button variant="default" onClick={() => setComparing(true)}>
          {tr("What differs")}
        </Button>
      )}
      {engineer && (
        <>
          <Button variant="default" component={Link} to={`/library/${r.id}/edit`}>
            {tr("Edit")}
          </Button>
          <Button variant="default" component={Link} to={`/library/${r.id}/edit?of=copy`}>
            {tr("Copy")}
          </Button>
          <Button variant="default" onClick={() => file.current?.click()}>
            {tr("Take a file in")}
          </Button>
          <input
            ref={file}
            type="file"
            accept=".yaml,.yml,.json"
            hidden
            aria-label={tr("Recipe file")}
            onChange={(e) => {
              const chosen = e.currentTarget.files?.[0];
              e.currentTarget.value = "";
              void chosen?.text().then((text) => navigate(`/library/${r.id}/edit?of=file`, { state: { file: text } }));
            }}
          />
          {r.retired ? (
            <Button variant="default" onClick={() => back.mutate()}>
              {tr("Take into use again")}
            </Button>
          ) : (
            <Button variant="default" onClick={() => setRetiring(true)}>
              {tr("Retire")}
            </Button>
          )}
        </>
      )}
      {comparing && <Editions recipe={r} onClose={() => setComparing(false)} />}
      {retiring && <Retire recipe={r} onClose={() => setRetiring(false)} onDone={fresh} />}
    </Group>
  );
}

/** The editions of a recipe, each with what differs from the one before. */
function Editions({ recipe: r, onClose }: { recipe: Recipe; onClose: () => void }) {
  const editions = useQuery({
    queryKey: ["library", "editions", r.id],
    queryFn: () => take(http.GET("/api/library/{recipe}/editions", { params: { path: { recipe: r.id } } })),
  });
  return (
    <Modal opened onClose={onClose} title={<b>{tr("Editions of {title}", { title: told(r.title) })}</b>} size={900}>
      <Refusal error={editions.error} />
      {editions.data?.editions.map((e, i, all) => (
        <section key={e.edition} className={classes.station}>
          <h2>
            {tr("Edition {edition}, {madeAt}{madeBy}", {
              edition: e.edition,
              madeAt: dateTime(e.madeAt),
              madeBy: e.madeBy && tr(", by {madeBy}", { madeBy: e.madeBy }),
            })}
          </h2>
          {e.fault ? (
            <p>{told(e.fault)}</p>
          ) : i === all.length - 1 ? (
            <p className="soft">{tr("The first one.")}</p>
          ) : (
            <Changes changes={e.changes} none="Nothing differs from the one before." />
          )}
        </section>
      ))}
    </Modal>
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
      title={tr("Retire {title}", { title: told(r.title) })}
      act={tr("Retire it")}
      color="stop"
      ready={reason.trim() !== ""}
      busy={retire.isPending}
      onClose={onClose}
      onAct={() => retire.mutate()}
    >
      <p>{tr("No new joint is made by it. Joints that have it go on.")}</p>
      <Textarea label={tr("Why")} name="reason" value={reason} onChange={setReason} minRows={2} data-autofocus />
      <Refusal error={retire.error} />
    </Dialog>
  );
}
