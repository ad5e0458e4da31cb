import { Button, Text } from "@mantine/core";
import type { Hand } from "../../api/types";
import { Panel } from "../../ui/Panel";
import classes from "./tighten.module.css";
import { told, tr } from "../../words/words";

interface HandsProps {
  hands: Hand[];
  /** The one that is shown. */
  now?: number;
  /** Whether a tool may be taken over. */
  may: boolean;
  onTake: (hand: number) => void;
}

/** The tools that work at once, in whose hand each is, and whether its bolt of this turn is done. */
export function Hands({ hands, now, may, onTake }: HandsProps) {
  return (
    <ul className={classes.hands} aria-label={tr("{count} tools at once", { count: hands.length })}>
      {hands.map((h) => (
        <li key={h.number} data-hand={h.number} data-open={h.open || undefined} aria-current={h.number === now || undefined}>
          <b className="mono">{h.tool}</b>
          <span>
            {h.mine ? tr("you") : h.by || tr("in nobody’s hand")}
            {h.name && `, ${told(h.name)}`} {h.name && (h.open ? tr("open") : tr("✓ done"))}
            {!h.name && tr(", rests")}
          </span>
          {may && h.open && !h.mine && (
            <Button size="compact-md" mih={48} variant="default" onClick={() => onTake(h.number)} data-take-over={h.number}>
              {h.by ? tr("Take it over") : tr("Take it")}
            </Button>
          )}
        </li>
      ))}
    </ul>
  );
}

/** What somebody sees whose bolt of this turn is done: who is still at theirs. */
export function Together({ hands }: { hands: Hand[] }) {
  const open = hands.filter((h) => h.open && !h.mine);
  return (
    <Panel kind="mind" title={tr("Wait")}>
      <Text fz={24} data-waits-for={open.map((h) => h.number).join(" ")}>
        {open.length === 0
          ? tr("Yours is on its way.")
          : open.map((h) => tr("{h}, {by} with {tool}", { h: told(h.name), by: h.by || tr("nobody"), tool: h.tool })).join("; ")}
      </Text>
      {open.length > 0 && <p className="soft">{tr("The ring closes evenly: the next bolts are named when these are done.")}</p>}
    </Panel>
  );
}
