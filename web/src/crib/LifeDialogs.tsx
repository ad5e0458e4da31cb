import { FileInput, NativeSelect, Textarea, TextInput } from "@mantine/core";
import { useInputState } from "@mantine/hooks";
import { useState } from "react";
import type { ToolCard } from "../api/types";
import { Dialog } from "../ui/Form";
import { Refusal } from "../ui/Refusal";
import { keepPaper } from "./papers";
import { useLive } from "./queries";
import { tr } from "../words/words";

/** What is said of a tool in a few words. */
export type Saying = "dropped" | "overloaded" | "held" | "back" | "returned" | "adjusted" | "scrapped";

const sayings: Record<Saying, { title: string; label: string; act: string; note: string; needed: boolean; color: string }> = {
  dropped: {
    title: tr("was dropped"),
    label: tr("Where, and how far"),
    act: tr("It was dropped"),
    note: tr("It is held back from now on. Every joint that it touched since it was last good is told, and waits for its check."),
    needed: false,
    color: "stop",
  },
  overloaded: {
    title: tr("was overloaded"),
    label: tr("What happened"),
    act: tr("It was overloaded"),
    note: tr("It is held back from now on. Every joint that it touched since it was last good is told, and waits for its check."),
    needed: false,
    color: "stop",
  },
  held: {
    title: tr("is held back"),
    label: tr("Why"),
    act: tr("Hold it back"),
    note: tr("Nobody pulls with it. What it made before is in no doubt; where it is, say that it was dropped or overloaded."),
    needed: true,
    color: "stop",
  },
  back: {
    title: tr("goes back into service"),
    label: tr("What was done"),
    act: tr("Back in service"),
    note: "",
    needed: true,
    color: "held",
  },
  returned: {
    title: tr("came back"),
    label: tr("In what state"),
    act: tr("It came back"),
    note: tr("Wound back to its lowest mark, not past it; clean and dry; nothing bent."),
    needed: false,
    color: "plan",
  },
  adjusted: {
    title: tr("was adjusted"),
    label: tr("What was set right"),
    act: tr("Keep it"),
    note: tr("From now on a check says nothing of what it did before."),
    needed: true,
    color: "plan",
  },
  scrapped: {
    title: tr("is scrapped"),
    label: tr("Why"),
    act: tr("Scrap it"),
    note: tr("It stays on every record that names it. It does not come back; its tag is not used again."),
    needed: true,
    color: "stop",
  },
};

interface Props {
  card: ToolCard;
  onClose: () => void;
}

/** Says one thing of a tool, with a few words. */
export function SayDialog({ card: c, saying, onClose }: Props & { saying: Saying }) {
  const s = sayings[saying];
  const [note, setNote] = useInputState("");
  const [place, setPlace] = useInputState(c.tool.place ?? "");
  const [id] = useState(() => crypto.randomUUID());
  const live = useLive(c.tool.tag, onClose);
  return (
    <Dialog
      title={`${c.tool.tag} ${s.title}`}
      act={s.act}
      color={s.color}
      ready={!s.needed || note.trim() !== ""}
      busy={live.isPending}
      onClose={onClose}
      onAct={() => live.mutate({ id, kind: saying, note: note.trim(), ...(saying === "returned" ? { place: place.trim() } : {}) })}
    >
      {s.note && <p>{s.note}</p>}
      {saying === "returned" && <TextInput label={tr("Its place")} name="place" value={place} onChange={setPlace} maxLength={120} />}
      <Textarea label={s.label} name="note" value={note} onChange={setNote} minRows={2} maxLength={500} data-autofocus />
      <Refusal error={live.error} />
    </Dialog>
  );
}

/** Gives a tool to somebody. */
export function LendDialog({ card: c, people, onClose }: Props & { people: { id: string; name: string }[] }) {
  const [to, setTo] = useInputState("");
  const [joint, setJoint] = useInputState("");
  const [id] = useState(() => crypto.randomUUID());
  const live = useLive(c.tool.tag, onClose);
  return (
    <Dialog
      title={tr("Lend {tag}", { tag: c.tool.tag })}
      act={tr("Lend it")}
      ready={to !== ""}
      busy={live.isPending}
      onClose={onClose}
      onAct={() => live.mutate({ id, kind: "lent", to, joint: joint.trim() })}
    >
      {c.tool.due && c.tool.standing === "soon" && <p>{tr("Mind: {due}.", { due: c.tool.due })}</p>}
      <NativeSelect label={tr("To whom")} name="to" value={to} onChange={setTo} data-autofocus>
        <option value="">{tr("choose")}</option>
        {people.map((p) => (
          <option key={p.id} value={p.id}>
            {p.name}
          </option>
        ))}
      </NativeSelect>
      <TextInput
        label={tr("For which joint")}
        description={tr("Its tag; nobody else chooses it for another joint. Empty: for theirs.")}
        name="joint"
        value={joint}
        onChange={setJoint}
        maxLength={80}
      />
      <Refusal error={live.error} />
    </Dialog>
  );
}

/** Adds a paper of a tool. */
export function PaperDialog({ card: c, onClose }: Props) {
  const [title, setTitle] = useInputState("");
  const [file, setFile] = useState<File | null>(null);
  const [error, setError] = useState<unknown>();
  const [id] = useState(() => crypto.randomUUID());
  const live = useLive(c.tool.tag, onClose);
  const send = async () => {
    try {
      live.mutate({ id, kind: "filed", title: title.trim(), paper: await keepPaper(file!) });
    } catch (e) {
      setError(e);
    }
  };
  return (
    <Dialog
      title={tr("A paper of {tag}", { tag: c.tool.tag })}
      act={tr("Keep it")}
      ready={file !== null && title.trim() !== ""}
      busy={live.isPending}
      onClose={onClose}
      onAct={() => void send()}
    >
      <FileInput
        size="md"
        label={tr("Its file")}
        description={tr("A PDF, or a picture of it; at most 12 MB")}
        accept="application/pdf,image/*"
        placeholder={tr("Choose the file")}
        value={file}
        onChange={(f) => {
          setFile(f);
          setError(undefined);
          if (f && title === "") setTitle(f.name.replace(/\.\w+$/, ""));
        }}
        fileInputProps={{ "aria-label": tr("The paper’s file"), name: "paper" }}
      />
      <TextInput label={tr("What it is")} name="title" value={title} onChange={setTitle} maxLength={120} />
      <Refusal error={error ?? live.error} />
    </Dialog>
  );
}
