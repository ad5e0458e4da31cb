import type { DrillKind } from "../../api/types";
import { tr } from "../../words/words";

/** The drills, as they are listed. */
export const DRILLS: { kind: DrillKind; name: string; what: string }[] = [
  { kind: "set it", name: tr("Set it"), what: tr("A value is asked for. Turn the tool to it, and lock it.") },
  { kind: "read it", name: tr("Read it"), what: tr("A tool shows something. Say what it is.") },
  { kind: "which bolt next", name: tr("Which bolt next"), what: tr("The phone rang in the middle of a pass. Go on where it was left.") },
  { kind: "order the parts", name: tr("Order the parts"), what: tr("Parts lie mixed on the bench. Lay them along their axis.") },
  { kind: "hold the pressure", name: tr("Hold the pressure"), what: tr("The pump drifts. Come up from below and hold what is asked for.") },
  { kind: "what is wrong here", name: tr("What is wrong here"), what: tr("A trace, gaps, tools, a pass. One thing is wrong, or nothing.") },
  { kind: "one click and stop", name: tr("One click and stop"), what: tr("Pull until it clicks, and stop at once.") },
  { kind: "convert it", name: tr("Convert it"), what: tr("A chart says one unit, the tool another.") },
];

export const nameOf = (kind: DrillKind) => DRILLS.find((d) => d.kind === kind)?.name ?? kind;
