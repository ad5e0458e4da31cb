import { FileInput, Group, Radio, TextInput } from "@mantine/core";
import { useInputState } from "@mantine/hooks";
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { http, problemOf, take } from "../api/client";
import type { CheckInput, ToolCard } from "../api/types";
import { useSession } from "../api/queries";
import { FaceView } from "../drawing/faces/Face";
import { Dialog } from "../ui/Form";
import { number, readNumber, signed } from "../ui/format";
import { Offered, useSent } from "../ui/Offered";
import { Refusal } from "../ui/Refusal";
import { keepPaper } from "./papers";
import { useLive } from "./queries";
import classes from "./crib.module.css";
import { told, tr } from "../words/words";

interface CheckDialogProps {
  card: ToolCard;
  /** A calibration by a laboratory; else a check of our own. */
  renews: boolean;
  onClose: () => void;
}

/** A tool on the tester: ascending, so often at each mark; what it comes to is said as one types. */
export function CheckDialog({ card: c, renews, onClose }: CheckDialogProps) {
  const tag = c.tool.tag;
  const me = useSession()?.person.name ?? "";
  const each = renews ? c.calibrationReadings : c.checkReadings;
  const [cells, setCells] = useState(() => c.marks.map(() => Array.from({ length: each }, () => "")));
  const [at, setAt] = useState(0);
  const [lab, setLab] = useInputState(renews ? "" : me);
  const [certificate, setCertificate] = useInputState("");
  const [on, setOn] = useInputState(new Date().toISOString().slice(0, 10));
  const [file, setFile] = useState<File | null>(null);
  const [good, setGood] = useState("good");
  const [note, setNote] = useInputState("");
  const [id] = useState(() => crypto.randomUUID());
  const live = useLive(tag, onClose);
  const [sending, setSending] = useState(false);
  const [paperError, setPaperError] = useState<unknown>();
  const marks = c.marks.map((m, i) => ({ at: m, readings: cells[i]!.map(readNumber).filter((r) => r !== undefined) }));
  const check: CheckInput = c.measures
    ? { lab: lab.trim(), certificate: certificate.trim(), renews, unit: c.unit, marks, note: note.trim() }
    : { lab: lab.trim(), looked: true, good: good === "good", note: note.trim() };
  const flat = cells.flat();
  const sent = useSent(flat);
  const gap = flat.findIndex((v) => v.trim() === "");
  const some = marks.filter((m) => m.readings.length > 0);
  const found = useQuery({
    queryKey: ["check", tag, JSON.stringify(some)],
    queryFn: () =>
      take(
        http.POST("/api/crib/{tool}/check", {
          params: { path: { tool: tag } },
          body: { check: { ...check, lab: lab || "-", marks: some } },
        }),
      ),
    enabled: c.measures && some.length > 0,
    placeholderData: (before) => before,
    retry: false,
  });
  const full = !c.measures || cells.every((row) => row.every((v) => readNumber(v) !== undefined));
  const send = async () => {
    setSending(true);
    setPaperError(undefined);
    try {
      const paper = file ? await keepPaper(file) : undefined;
      // A day without its time is noon of it, or now where that is still to come; a check of our own is now.
      const noon = Math.min(Date.parse(`${on}T12:00:00`), Date.now());
      const when = renews ? { on: new Date(noon).toISOString() } : {};
      const from = sent.ids.length > 0 ? { from: sent.ids } : {};
      live.mutate({ id, kind: "checked", ...when, check: { ...check, ...from, ...(paper ? { paper } : {}) } });
    } catch (e) {
      setPaperError(e);
    } finally {
      setSending(false);
    }
  };
  const face = c.faces[at];
  const wrong = problemOf(live.error);
  return (
    <Dialog
      title={renews ? tr("{tag}: its calibration", { tag }) : c.measures ? tr("Check {tag}", { tag }) : tr("Look at {tag}", { tag })}
      act={renews ? tr("Keep the calibration") : tr("Keep the check")}
      color="now"
      size={760}
      ready={full && lab.trim() !== ""}
      busy={sending || live.isPending}
      onClose={onClose}
      onAct={() => void send()}
    >
      <Group grow align="flex-start">
        <TextInput
          label={renews ? tr("Laboratory") : tr("Who stands at the tester")}
          name="lab"
          value={lab}
          onChange={setLab}
          maxLength={120}
        />
        {renews && <TextInput label={tr("Certificate")} name="certificate" value={certificate} onChange={setCertificate} maxLength={80} />}
        {renews && (
          <TextInput
            label={tr("Day of it")}
            name="on"
            type="date"
            value={on}
            onChange={setOn}
            error={wrong?.field === "on" ? `${told(wrong.detail)}` : undefined}
          />
        )}
      </Group>
      {c.measures ? (
        <>
          <p className="soft">
            {tr(
              "Set it to each mark, lowest first, and enter what the tester gives. Pull square, at the middle of the grip, slowly to the click; three dry pulls at its greatest value first.",
            )}
          </p>
          <table className={classes.marks}>
            <thead>
              <tr>
                <th scope="col">{tr("set to")}</th>
                {Array.from({ length: each }, (_, k) => (
                  <th key={k} scope="col">
                    {k + 1}
                  </th>
                ))}
                <th scope="col" style={{ textAlign: "right" }}>
                  {tr("off by")}
                </th>
              </tr>
            </thead>
            <tbody>
              {c.marks.map((m, i) => {
                const judged = found.data?.marks.find((x) => x.at === m);
                return (
                  <tr key={m}>
                    <th scope="row" className="mono">
                      {number(m)} {c.unit}
                    </th>
                    {cells[i]!.map((v, k) => (
                      <td key={k}>
                        <input
                          className="field mono"
                          inputMode="decimal"
                          autoComplete="off"
                          name={`mark ${i + 1} reading ${k + 1}`}
                          aria-label={tr("At {m} {unit}, reading {k}", { m: number(m), unit: c.unit, k: k + 1 })}
                          aria-invalid={v.trim() !== "" && readNumber(v) === undefined}
                          value={v}
                          onFocus={() => setAt(i)}
                          onChange={(e) =>
                            setCells(cells.map((row, x) => (x === i ? row.map((w, y) => (y === k ? e.target.value : w)) : row)))
                          }
                        />
                      </td>
                    ))}
                    <td className={judged && !judged.holds ? `mono ${classes.off}` : "mono"}>
                      {judged ? `${signed(judged.worst)} %` : "–"}
                    </td>
                  </tr>
                );
              })}
            </tbody>
          </table>
          <Offered
            unit={gap < 0 ? undefined : c.unit}
            used={sent.ids}
            onTake={(r) => {
              sent.put(gap, r);
              setAt(Math.floor(Math.min(gap + 1, flat.length - 1) / each));
              setCells(cells.map((row, x) => row.map((v, y) => (x * each + y === gap ? String(r.value) : v))));
            }}
          />
          <Group justify="space-between" align="center" wrap="nowrap">
            <p className={classes.verdict} role="status">
              {found.data && some.length > 0 ? (
                <b className={found.data.holds ? undefined : classes.off}>
                  {found.data.holds ? tr("So far good: ") : tr("Not good: ")}
                  {told(found.data.text)}.
                </b>
              ) : (
                <span className="soft">{tr("± {accuracy} % are allowed.", { accuracy: c.accuracy })}</span>
              )}
            </p>
            {face && <FaceView face={face} words={false} />}
          </Group>
        </>
      ) : (
        <Radio.Group value={good} onChange={setGood} label={tr("What was seen")}>
          <Group mt={6}>
            <Radio value="good" label={tr("Good: no crack, no wear, it fits")} size="md" />
            <Radio value="bad" label={tr("Not good")} size="md" />
          </Group>
        </Radio.Group>
      )}
      {renews && (
        <FileInput
          size="md"
          label={tr("The certificate as a file")}
          description={tr("A PDF or a picture; may come later")}
          accept="application/pdf,image/*"
          placeholder={tr("Choose the file")}
          value={file}
          onChange={setFile}
          clearable
          fileInputProps={{ "aria-label": tr("The certificate’s file"), name: "paper" }}
        />
      )}
      {(!c.measures || renews) && <TextInput label={tr("Note")} name="note" value={note} onChange={setNote} maxLength={500} />}
      <Refusal error={paperError ?? live.error} />
    </Dialog>
  );
}
