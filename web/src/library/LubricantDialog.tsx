import { Button, Group, NativeSelect, SegmentedControl, SimpleGrid, Stack, Switch, TextInput } from "@mantine/core";
import { useDebouncedValue, useInputState } from "@mantine/hooks";
import { useMutation, useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { http, take } from "../api/client";
import { useFreshOwn, useTorqueUnit, useWords } from "../api/queries";
import { Dialog } from "../ui/Form";
import { readNumber } from "../ui/format";
import { Refusal } from "../ui/Refusal";
import { k, TrialChart } from "./TrialChart";
import classes from "./own.module.css";
import { tr } from "../words/words";

interface LubricantProps {
  onClose: () => void;
  onKept: (name: string) => void;
}

const SIX = Array.from({ length: 6 }, () => ({ torque: "", load: "" }));

/** A lubricant of one's own: by the trial of a lot, or by its supplier's test. */
export function LubricantDialog({ onClose, onKept }: LubricantProps) {
  const fresh = useFreshOwn();
  const [name, setName] = useInputState("");
  const [lot, setLot] = useInputState("");
  const [source, setSource] = useInputState("");
  const [on, setOn] = useInputState("");
  const [expires, setExpires] = useInputState("");
  const [dry, setDry] = useState(false);
  const [origin, setOrigin] = useState<"site trial" | "supplier's test">("site trial");
  const [ks, setKs] = useState({ low: "", nominal: "", high: "" });
  const trial = useTrial();
  const tried = origin === "site trial";
  const keep = useMutation({
    mutationFn: () =>
      take(
        http.POST("/api/own/lubricants", {
          body: {
            name,
            origin,
            source,
            dry,
            ...(lot && { lot }),
            ...(on && { on }),
            ...(expires && { expires }),
            ...(tried ? { trial: trial.body } : { low: readNumber(ks.low), nominal: readNumber(ks.nominal), high: readNumber(ks.high) }),
          },
        }),
      ),
    onSuccess: () => {
      fresh();
      onKept(name.trim());
      onClose();
    },
  });
  const given = tried
    ? trial.settled && trial.answer.isSuccess && trial.unread === undefined
    : [ks.low, ks.nominal, ks.high].every((v) => readNumber(v) !== undefined);
  return (
    <Dialog
      title={tr("A lubricant of your own")}
      size={1060}
      act={tr("Keep it")}
      ready={name.trim() !== "" && source.trim() !== "" && given}
      busy={keep.isPending}
      onClose={onClose}
      onAct={() => keep.mutate()}
    >
      <SimpleGrid cols={{ base: 1, sm: 3 }} spacing={12}>
        <TextInput
          label={tr("Name, with its surface")}
          name="name"
          value={name}
          onChange={setName}
          maxLength={80}
          autoComplete="off"
          data-autofocus
        />
        <TextInput label={tr("Lot")} name="lot" value={lot} onChange={setLot} maxLength={80} autoComplete="off" />
        <TextInput
          label={tr("Report, and who made it")}
          name="source"
          value={source}
          onChange={setSource}
          maxLength={200}
          autoComplete="off"
        />
        <TextInput label={tr("Day of the test")} name="on" type="date" value={on} onChange={setOn} />
        <TextInput label={tr("For use until")} name="expires" type="date" value={expires} onChange={setExpires} />
        <Switch size="lg" mt={30} label={tr("Nothing is put on: dry")} checked={dry} onChange={(e) => setDry(e.currentTarget.checked)} />
      </SimpleGrid>
      <SegmentedControl
        data={[
          { value: "site trial", label: tr("our trial of this lot") },
          { value: "supplier's test", label: tr("its supplier’s test") },
        ]}
        value={origin}
        onChange={(v) => setOrigin(v as typeof origin)}
        size="md"
      />
      {tried ? (
        <TrialFields trial={trial} />
      ) : (
        <SimpleGrid cols={3} spacing={12}>
          {(["low", "nominal", "high"] as const).map((which) => (
            <TextInput
              key={which}
              label={{ low: tr("K, low"), nominal: tr("K, nominal"), high: tr("K, high") }[which]}
              name={which}
              inputMode="decimal"
              value={ks[which]}
              onChange={(e) => setKs({ ...ks, [which]: e.currentTarget.value })}
              autoComplete="off"
            />
          ))}
        </SimpleGrid>
      )}
      <Refusal error={keep.error} />
    </Dialog>
  );
}

/** The readings as they are typed, and what they come to. */
function useTrial() {
  const [thread, setThread] = useState("M20");
  const [torqueUnit, setTorqueUnit] = useState(useTorqueUnit());
  const [loadUnit, setLoadUnit] = useState("kN");
  const [rows, setRows] = useState(SIX);
  // The answer numbers its readings as these rows are numbered, so a row is read only when all before it are.
  const typed = rows.slice(0, rows.findLastIndex((r) => r.torque.trim() !== "" || r.load.trim() !== "") + 1);
  const read = typed.map((r) => {
    const torque = readNumber(r.torque);
    const load = readNumber(r.load);
    if (torque === undefined || load === undefined) return undefined;
    return { torque: { value: torque, unit: torqueUnit }, load: { value: load, unit: loadUnit } };
  });
  const gap = read.indexOf(undefined);
  const unread = gap < 0 ? undefined : gap + 1;
  const readings = (gap < 0 ? read : read.slice(0, gap)).filter((r) => r !== undefined);
  const body = { thread, readings };
  const [asked] = useDebouncedValue(body, 250);
  const key = JSON.stringify(asked);
  const answer = useQuery({
    queryKey: ["trial", key],
    queryFn: () => take(http.POST("/api/own/trial", { body: asked })),
    enabled: asked.readings.length >= 5,
    retry: false,
  });
  // The answer is of what stands there now, not of what stood there before the last key.
  const settled = key === JSON.stringify(body);
  return { settled, thread, setThread, torqueUnit, setTorqueUnit, loadUnit, setLoadUnit, rows, setRows, unread, body, answer };
}

function TrialFields({ trial: t }: { trial: ReturnType<typeof useTrial> }) {
  const threads = useWords().data?.threads ?? [];
  const change = (i: number, c: Partial<(typeof SIX)[number]>) => t.setRows(t.rows.map((r, n) => (n === i ? { ...r, ...c } : r)));
  const tried = t.answer.data;
  return (
    <div className={classes.trial}>
      <Stack gap={8}>
        <SimpleGrid cols={3} spacing={10}>
          <NativeSelect
            label={tr("Thread")}
            data={threads.map((x) => x.name)}
            value={t.thread}
            onChange={(e) => t.setThread(e.currentTarget.value)}
            size="md"
          />
          <NativeSelect
            label={tr("Torque in")}
            data={["N·m", "ft·lbf"]}
            value={t.torqueUnit}
            onChange={(e) => t.setTorqueUnit(e.currentTarget.value)}
            size="md"
          />
          <NativeSelect
            label={tr("Load in")}
            data={["kN", "kip", "lbf"]}
            value={t.loadUnit}
            onChange={(e) => t.setLoadUnit(e.currentTarget.value)}
            size="md"
          />
        </SimpleGrid>
        <table className={classes.readings}>
          <thead>
            <tr>
              <th>{tr("Bolt")}</th>
              <th>{tr("Torque, {torqueUnit}", { torqueUnit: t.torqueUnit })}</th>
              <th>{tr("Load, {loadUnit}", { loadUnit: t.loadUnit })}</th>
              <th>K</th>
            </tr>
          </thead>
          <tbody>
            {t.rows.map((r, i) => (
              // The rows have no identity but their place.
              // oxlint-disable-next-line react/no-array-index-key
              <tr key={i} data-far={tried?.far.includes(i + 1) || undefined}>
                <th scope="row">{i + 1}</th>
                {(["torque", "load"] as const).map((which) => (
                  <td key={which}>
                    <input
                      className="field mono"
                      inputMode="decimal"
                      name={`${which}${i + 1}`}
                      aria-label={tr("Bolt {i}, {which}", { i: i + 1, which })}
                      value={r[which]}
                      onChange={(e) => change(i, { [which]: e.currentTarget.value })}
                      autoComplete="off"
                    />
                  </td>
                ))}
                <td className="mono">{tried?.ks[i] === undefined ? "" : k(tried.ks[i])}</td>
              </tr>
            ))}
          </tbody>
        </table>
        {t.rows.length < 50 && (
          <Button variant="default" onClick={() => t.setRows([...t.rows, { torque: "", load: "" }])}>
            {tr("Another bolt")}
          </Button>
        )}
      </Stack>
      <Stack gap={10} aria-live="polite">
        {tried ? (
          <>
            <TrialChart tried={tried} />
            <Group gap={18} data-tried={`${k(tried.low)} ${k(tried.mean)} ${k(tried.high)}`}>
              <span className="mono">
                {"K "}
                {k(tried.low)}
                {" · "}
                <b>{k(tried.mean)}</b>
                {" · "}
                {k(tried.high)}
              </span>
            </Group>
            {tried.words.map((w) => (
              <p key={w} className="edge" data-edge={tried.steady ? "held" : "mind"}>
                {w}
              </p>
            ))}
          </>
        ) : (
          <p className="soft">{tr("Five bolts or more, each with its torque and the load it gave, and the chart is drawn.")}</p>
        )}
        {t.unread && (
          <p className="soft">
            {tr("Bolt {unread} wants both its torque and its load, in numbers, before this is kept.", { unread: t.unread })}
          </p>
        )}
        <Refusal error={t.answer.error} />
      </Stack>
    </div>
  );
}
