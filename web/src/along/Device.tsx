import { Button, type MantineColorScheme, Menu, Switch, TextInput, useMantineColorScheme } from "@mantine/core";
import { useState } from "react";
import { Link } from "react-router";
import { useWall } from "../api/queries";
import { useAlong, useAlongState, useOutboxState } from "../app/context";
import { contrast, leftHand, signals, useChoice } from "../app/hand";
import { device } from "../app/heard";
import { SCARCE, useRoom } from "../app/room";
import { InBar } from "../app/Shell";
import { signal } from "../app/signal";
import { Glyph } from "../drawing/Glyph";
import { Panel } from "../ui/Panel";
import { dateTime, hourMinute } from "../ui/format";
import { amount } from "./amount";
import classes from "./along.module.css";
import { takeAll } from "./taking";

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
        `${joints.length} joints take up about ${amount(joints.length * each)}, and there is room for ${amount(left)}: take fewer, or drop some. ` +
          `${amount(SCARCE)} are left for what is done.`,
      );
      return;
    }
    setBusy(true);
    let n = 0;
    const say = (why = "") => setSaid(`${n} of ${joints.length} taken${why && `: ${why}`}.`);
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
        <b>This device</b>
      </InBar>
      <header className={classes.head}>
        <h1>{taken.length === 0 ? "Nothing is taken along" : `${taken.length} ${taken.length === 1 ? "joint" : "joints"} taken along`}</h1>
        <span className={classes.takes}>
          {next.length > 0 && (
            <Button color="plan" loading={busy} onClick={() => void take(next)} data-take-next>
              {next.length === 1 ? "Take the one that is next for me" : `Take the ${next.length} that are next for me`}
            </Button>
          )}
          {areas.length > 0 && (
            <Menu position="bottom-end">
              <Menu.Target>
                <Button variant="default" disabled={busy} data-take-area>
                  Take an area
                </Button>
              </Menu.Target>
              <Menu.Dropdown className={classes.areas}>
                {areas.map((a) => (
                  <Menu.Item key={a.name} onClick={() => void take(a.joints.map((j) => j.id))}>
                    {a.name}: {a.joints.length} {a.joints.length === 1 ? "joint" : "joints"}, about {amount(a.joints.length * each)}
                  </Menu.Item>
                ))}
              </Menu.Dropdown>
            </Menu>
          )}
        </span>
      </header>
      <p role="status" className="soft">
        {said || (left !== undefined && `A joint takes up about ${amount(each)}; there is room for ${amount(left)}.`)}
      </p>
      <Panel title="Waits to be stored" kind={acts.length > 0 ? "mind" : undefined}>
        {acts.length === 0 && <p>Nothing: all that was done here is stored.</p>}
        <ul className={classes.list}>
          {waiting.map(({ joint, list }) => (
            <li key={joint} className={classes.line}>
              {glyph(joint)}
              <Link to={`/joint/${joint}`} className={classes.words}>
                <b className="mono">{name(joint)}</b>
                <span>
                  {list.length} {list.length === 1 ? "entry" : "entries"}, since {dateTime(list[0]!.entry.at)}
                  {list.some((a) => a.problem) && ", one of them not taken"}
                </span>
              </Link>
            </li>
          ))}
        </ul>
      </Panel>
      <Panel title="Works without a network">
        {taken.length === 0 && (
          <p>
            A joint that is taken along opens here without a network: its plan, tools, drawing, papers and photographs, and the run so far.
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
                  <span>{t.title}</span>
                  <span className="soft">
                    as of {lately(t.at)}, {amount(t.bytes)}
                  </span>
                </Link>
                <Button
                  variant="default"
                  disabled={busy}
                  onClick={() => void along.drop(t.joint)}
                  aria-label={`Drop ${t.tag} from this device`}
                >
                  Drop
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
            Drop all {taken.length} of them
          </Button>
        )}
      </Panel>
      <Panel title="Its name">
        <TextInput
          label="What is written on this device"
          description="The Wall calls it so, when it was not heard of and has acts in it."
          placeholder="T-07"
          maxLength={40}
          defaultValue={device.name()}
          onBlur={(e) => device.called(e.currentTarget.value.trim())}
          name="device"
        />
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
  const told = useChoice(signals);
  return (
    <Panel title="Light and hand">
      <div className={classes.lights} role="group" aria-label="Light">
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
        label="For the left hand"
        description="What is touched is on the left, the stations on the right."
        checked={left}
        onChange={(e) => leftHand.set(e.currentTarget.checked)}
      />
      <Switch
        mt={16}
        size="lg"
        label="A sound and a buzz at each pull"
        description="Once: kept. Twice: it moved. Long and low: not taken, look at the screen."
        checked={told}
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
  { name: "As the device", scheme: "auto", high: false },
  { name: "Day", scheme: "light", high: false },
  { name: "Sun", scheme: "light", high: true },
  { name: "Night shift", scheme: "dark", high: false },
  { name: "Dark pit", scheme: "dark", high: true },
];
