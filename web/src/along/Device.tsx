import { Button, type MantineColorScheme, Menu, Stack, Switch, TextInput, useMantineColorScheme } from "@mantine/core";
import { useState } from "react";
import { Link } from "react-router";
import { useWall } from "../api/queries";
import { useAlong, useAlongState, useOutboxState } from "../app/context";
import { contrast, leftHand, signals, useChoice } from "../app/hand";
import { device } from "../app/heard";
import { SCARCE, useRoom } from "../app/room";
import { Language } from "../app/Language";
import { TorqueUnit } from "../app/TorqueUnit";
import { InBar } from "../app/Shell";
import { signal } from "../app/signal";
import { Glyph } from "../drawing/Glyph";
import { Panel } from "../ui/Panel";
import { dateTime, hourMinute } from "../ui/format";
import { amount } from "./amount";
import classes from "./along.module.css";
import { takeAll } from "./taking";
import { told, tr } from "../words/words";

/** How many of what is next are taken at once. */
const TEN = 10;

/** When something was, ms: of today its time alone. */
const lately = (at: number) => {
  const d = new Date(at);
  return d.toDateString() === new Date().toDateString() ? hourMinute(d) : dateTime(d.toISOString());
};

/** So many are dropped one by one. */
const FEW = 3;

/** What a joint takes up without photographs, bytes: said before any was taken. */
const USUAL = 100_000;

/** What lies on this device: joints taken along, and what waits to be stored. */
export function Device() {
  const along = useAlong();
  const { taken } = useAlongState();
  const { acts } = useOutboxState();
  const wall = useWall();
  const [said, setSaid] = useState("");
  const [busy, setBusy] = useState(false);
  const left = useRoom(taken.length);
  const next = [...new Set((wall.data?.next ?? []).flatMap((t) => t.joint ?? []))].slice(0, TEN);
  const areas = wall.data?.areas ?? [];
  const each = taken.length > 0 ? taken.reduce((sum, t) => sum + t.bytes, 0) / taken.length : USUAL;
  const cards = new Map(areas.flatMap((a) => a.joints).map((j) => [j.id, j]));
  const take = async (joints: string[]) => {
    if (left !== undefined && joints.length * each > left - SCARCE) {
      setSaid(
        tr(
          "{count} joints take up about {size}, and there is room for {left}: take fewer, or drop some. {scarce} are left for what is done.",
          {
            count: joints.length,
            size: amount(joints.length * each),
            left: amount(left),
            scarce: amount(SCARCE),
          },
        ),
      );
      return;
    }
    setBusy(true);
    let n = 0;
    const say = (why = "") => setSaid(tr("{n} of {joints} taken{why}.", { n, joints: joints.length, why: why && `: ${why}` }));
    const why = await takeAll(along, joints, (taken) => {
      n = taken;
      say();
    });
    say(why);
    setBusy(false);
  };
  const waiting = [...new Set(acts.map((a) => a.joint))].map((joint) => ({ joint, list: acts.filter((a) => a.joint === joint) }));
  const name = (joint: string) => taken.find((t) => t.joint === joint)?.tag ?? cards.get(joint)?.tag ?? "a joint";
  const glyph = (joint: string) => {
    const c = cards.get(joint);
    return c && <Glyph figure={wall.data?.figures[c.figure]} levels={c.levels} marks={c.marks} size={64} />;
  };
  return (
    <main className={classes.page}>
      <InBar>
        <b>{tr("This device")}</b>
      </InBar>
      <header className={classes.head}>
        <h1>{taken.length === 0 ? tr("Nothing is taken along") : tr("{count} joints taken along", { count: taken.length })}</h1>
        <span className={classes.takes}>
          {next.length > 0 && (
            <Button color="plan" loading={busy} onClick={() => void take(next)} data-take-next>
              {tr("Take the {count} that are next for me", { count: next.length })}
            </Button>
          )}
          {areas.length > 0 && (
            <Menu position="bottom-end">
              <Menu.Target>
                <Button variant="default" disabled={busy} data-take-area>
                  {tr("Take an area")}
                </Button>
              </Menu.Target>
              <Menu.Dropdown className={classes.areas}>
                {areas.map((a) => (
                  <Menu.Item key={a.name} onClick={() => void take(a.joints.map((j) => j.id))}>
                    {tr("{area}: {count} joints, about {size}", {
                      area: a.name,
                      count: a.joints.length,
                      size: amount(a.joints.length * each),
                    })}
                  </Menu.Item>
                ))}
              </Menu.Dropdown>
            </Menu>
          )}
        </span>
      </header>
      <p role="status" className="soft">
        {said ||
          (left !== undefined &&
            tr("A joint takes up about {each}; there is room for {left}.", { each: amount(each), left: amount(left) }))}
      </p>
      <Panel title={tr("Waits to be stored")} kind={acts.length > 0 ? "mind" : undefined}>
        {acts.length === 0 && <p>{tr("Nothing: all that was done here is stored.")}</p>}
        <ul className={classes.list}>
          {waiting.map(({ joint, list }) => (
            <li key={joint} className={classes.line}>
              {glyph(joint)}
              <Link to={`/joint/${joint}`} className={classes.words}>
                <b className="mono">{name(joint)}</b>
                <span>
                  {tr("{count} entries, since {at}{wrong}", {
                    count: list.length,
                    at: dateTime(list[0]!.entry.at),
                    wrong: list.some((a) => a.problem) && tr(", one of them not taken"),
                  })}
                </span>
              </Link>
            </li>
          ))}
        </ul>
      </Panel>
      <Panel title={tr("Works without a network")}>
        {taken.length === 0 && (
          <p>
            {tr(
              "A joint that is taken along opens here without a network: its plan, tools, drawing, papers and photographs, and the run so far.",
            )}
          </p>
        )}
        <ul className={classes.list}>
          {[...taken]
            .sort((a, b) => a.tag.localeCompare(b.tag))
            .map((t) => (
              <li key={t.joint} className={classes.line} data-taken={t.tag}>
                {glyph(t.joint)}
                <Link to={`/joint/${t.joint}`} className={classes.words}>
                  <b className="mono">{t.tag}</b>
                  <span>{told(t.title)}</span>
                  <span className="soft">{tr("as of {at}, {bytes}", { at: lately(t.at), bytes: amount(t.bytes) })}</span>
                </Link>
                <Button
                  variant="default"
                  disabled={busy}
                  onClick={() => void along.drop(t.joint)}
                  aria-label={tr("Drop {tag} from this device", { tag: t.tag })}
                >
                  {tr("Drop")}
                </Button>
              </li>
            ))}
        </ul>
        {taken.length > FEW && (
          <Button
            variant="default"
            mt={14}
            disabled={busy}
            onClick={() => void Promise.all(taken.map((t) => along.drop(t.joint)))}
            data-drop-all
          >
            {tr("Drop all {taken} of them", { taken: taken.length })}
          </Button>
        )}
      </Panel>
      <Panel title={tr("Its name")}>
        <TextInput
          label={tr("What is written on this device")}
          description={tr("The Wall calls it so, when it was not heard of and has acts in it.")}
          placeholder="T-07"
          maxLength={40}
          defaultValue={device.name()}
          onBlur={(e) => device.called(e.currentTarget.value.trim())}
          name="device"
        />
      </Panel>
      <Panel>
        <Stack gap={14}>
          <Language />
          <TorqueUnit />
        </Stack>
      </Panel>
      <Hand />
    </main>
  );
}

/** Light and hand, as this device has them. */
function Hand() {
  const { colorScheme, setColorScheme } = useMantineColorScheme();
  const high = useChoice(contrast);
  const left = useChoice(leftHand);
  const sounds = useChoice(signals);
  return (
    <Panel title={tr("Light and hand")}>
      <div className={classes.lights} role="group" aria-label={tr("Light")}>
        {LIGHTS.map((l) => (
          <Button
            key={l.name}
            variant={l.scheme === colorScheme && l.high === high ? "filled" : "default"}
            color="plan"
            aria-pressed={l.scheme === colorScheme && l.high === high}
            onClick={() => {
              setColorScheme(l.scheme);
              contrast.set(l.high);
            }}
          >
            {l.name}
          </Button>
        ))}
      </div>
      <Switch
        mt={16}
        size="lg"
        label={tr("For the left hand")}
        description={tr("What is touched is on the left, the stations on the right.")}
        checked={left}
        onChange={(e) => leftHand.set(e.currentTarget.checked)}
      />
      <Switch
        mt={16}
        size="lg"
        label={tr("A sound and a buzz at each pull")}
        description={tr("Once: kept. Twice: it moved. Long and low: not taken, look at the screen.")}
        checked={sounds}
        onChange={(e) => {
          signals.set(e.currentTarget.checked);
          signal("held");
        }}
      />
    </Panel>
  );
}

/** In which light a screen is read. */
const LIGHTS: { name: string; scheme: MantineColorScheme; high: boolean }[] = [
  { name: tr("As the device"), scheme: "auto", high: false },
  { name: tr("Day"), scheme: "light", high: false },
  { name: tr("Sun"), scheme: "light", high: true },
  { name: tr("Night shift"), scheme: "dark", high: false },
  { name: tr("Dark pit"), scheme: "dark", high: true },
];
