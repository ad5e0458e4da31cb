import { Button, Modal, TextInput } from "@mantine/core";
import { useInputState } from "@mantine/hooks";
import { lazy, Suspense, useState } from "react";
import { useNavigate } from "react-router";
import { useWall } from "../api/queries";
import { Form } from "../ui/Form";
import { scans } from "./scans";

const Scan = lazy(() => import("./Scan").then((m) => ({ default: m.Scan })));

/** Finds a joint by part of its tag or title. */
export function Finder({ onClose }: { onClose: () => void }) {
  const wall = useWall();
  const navigate = useNavigate();
  const [text, setText] = useInputState("");
  const [scanning, setScanning] = useState(false);
  const words = text.toLowerCase().split(/\s+/).filter(Boolean);
  const found = (wall.data?.areas ?? [])
    .flatMap((a) => a.joints)
    .filter((j) => words.every((w) => `${j.tag} ${j.title}`.toLowerCase().includes(w)));
  const go = (j: { id: string; station: number } | undefined) => {
    if (!j) return;
    onClose();
    void navigate(`/joint/${j.id}/${j.station}`);
  };
  // A card's code is the joint's address; another code may be its tag.
  const read = (code: string) => {
    setScanning(false);
    const id = /\/joint\/([0-9a-f-]{36})/.exec(code)?.[1];
    const joint = (wall.data?.areas ?? []).flatMap((a) => a.joints).find((j) => j.id === id);
    if (joint) go(joint);
    else setText(code);
  };
  return (
    <Modal opened onClose={onClose} title={<b>Find a tag</b>}>
      {scanning && (
        <Suspense fallback={<p>The camera starts.</p>}>
          <Scan onCode={read} />
        </Suspense>
      )}
      {scans() && !scanning && (
        <Button variant="default" fullWidth mb={12} onClick={() => setScanning(true)}>
          Read its code with the camera
        </Button>
      )}
      <Form onSend={() => go(found[0])}>
        <TextInput aria-label="Tag or title" value={text} onChange={setText} data-autofocus placeholder="bonnet" mb={12} />
      </Form>
      <ul className="options lines">
        {found.slice(0, 8).map((j) => (
          <li key={j.id}>
            <button type="button" className="bare" onClick={() => go(j)}>
              <b className="mono">{j.tag}</b>
              <span className="soft">{j.text}</span>
            </button>
          </li>
        ))}
        {found.length === 0 && <li className="soft">No joint has that in its tag or title.</li>}
      </ul>
    </Modal>
  );
}
