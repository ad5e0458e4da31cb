import { Button, Modal, TextInput } from "@mantine/core";
import { useInputState } from "@mantine/hooks";
import { lazy, Suspense, useState } from "react";
import { useQuery } from "@tanstack/react-query";
import { useNavigate } from "react-router";
import { http, take } from "../api/client";
import { useWall } from "../api/queries";
import { Form } from "../ui/Form";
import { scans } from "./scans";
import { told, tr } from "../words/words";

const Scan = lazy(() => import("./Scan").then((m) => ({ default: m.Scan })));

/** Finds a joint, or a tool, by part of its tag or name, or by its code. */
export function Finder({ onClose }: { onClose: () => void }) {
  const wall = useWall();
  const navigate = useNavigate();
  const crib = useQuery({ queryKey: ["crib"], queryFn: () => take(http.GET("/api/crib")) });
  const [text, setText] = useInputState("");
  const [scanning, setScanning] = useState(false);
  const words = text.toLowerCase().split(/\s+/).filter(Boolean);
  const found = (wall.data?.areas ?? [])
    .flatMap((a) => a.joints)
    .filter((j) => words.every((w) => `${j.tag} ${j.title}`.toLowerCase().includes(w)));
  const tools =
    words.length === 0 ? [] : (crib.data?.tools ?? []).filter((t) => words.every((w) => `${t.tag} ${t.name}`.toLowerCase().includes(w)));
  const open = (tag: string) => {
    onClose();
    void navigate(`/crib/${encodeURIComponent(tag)}`);
  };
  const go = (j: { id: string; station: number } | undefined) => {
    if (!j) return;
    onClose();
    void navigate(`/joint/${j.id}/${j.station}`);
  };
  // A card's code is the joint's address; another code may be its tag.
  const read = (code: string) => {
    setScanning(false);
    const at = /\/crib\/([^/?#]+)/.exec(code)?.[1];
    const known = crib.data?.tools.find((t) => t.tag === code || encodeURIComponent(t.tag) === at);
    if (known) return open(known.tag);
    const id = /\/joint\/([0-9a-f-]{36})/.exec(code)?.[1];
    const joint = (wall.data?.areas ?? []).flatMap((a) => a.joints).find((j) => j.id === id);
    if (joint) go(joint);
    else setText(code);
  };
  return (
    <Modal opened onClose={onClose} title={<b>{tr("Find a tag")}</b>}>
      {scanning && (
        <Suspense fallback={<p>{tr("The camera starts.")}</p>}>
          <Scan onCode={read} />
        </Suspense>
      )}
      {scans() && !scanning && (
        <Button variant="default" fullWidth mb={12} onClick={() => setScanning(true)}>
          {tr("Read its code with the camera")}
        </Button>
      )}
      <Form onSend={() => (found[0] ? go(found[0]) : tools[0] && open(tools[0].tag))}>
        <TextInput aria-label={tr("Tag or title")} value={text} onChange={setText} data-autofocus placeholder={tr("bonnet")} mb={12} />
      </Form>
      <ul className="options lines">
        {found.slice(0, 8).map((j) => (
          <li key={j.id}>
            <button type="button" className="bare" onClick={() => go(j)}>
              <b className="mono">{j.tag}</b>
              <span className="soft">{told(j.text)}</span>
            </button>
          </li>
        ))}
        {tools.slice(0, 4).map((t) => (
          <li key={t.tag}>
            <button type="button" className="bare" onClick={() => open(t.tag)}>
              <b className="mono">{t.tag}</b>
              <span className="soft">{tr("{t}, in the Crib", { t: told(t.text) })}</span>
            </button>
          </li>
        ))}
        {found.length + tools.length === 0 && <li className="soft">{tr("No joint and no tool has that in its tag or name.")}</li>}
      </ul>
    </Modal>
  );
}
