import { Bolt } from "../../drawing/Bolt";
import classes from "./tighten.module.css";
import { tr } from "../../words/words";

/** A nut with its mark at six o'clock, and how far it goes from there. */
export function TurnDial({ degrees, back }: { degrees: number; back: boolean }) {
  const sign = back ? -1 : 1;
  const shown = Math.min(degrees, 359.9);
  const at = (deg: number, r: number) => {
    const a = ((180 + sign * deg) * Math.PI) / 180;
    return `${(r * Math.sin(a)).toFixed(2)} ${(-r * Math.cos(a)).toFixed(2)}`;
  };
  const large = shown > 180 ? 1 : 0;
  return (
    <svg
      viewBox="-80 -80 160 160"
      className={classes.dial}
      role="img"
      aria-label={
        back
          ? tr("{degrees}° back from the mark at six o’clock", { degrees })
          : tr("{degrees}° on from the mark at six o’clock", { degrees })
      }
    >
      <circle r="70" stroke="var(--line)" strokeWidth="3" />
      <path d={`M ${at(0, 70)} A 70 70 0 ${large} ${back ? 0 : 1} ${at(shown, 70)}`} strokeWidth="7" />
      <path d={`M ${at(0, 62)} L ${at(0, 78)}`} stroke="var(--ink)" strokeWidth="4" />
      <circle r="6" transform={`translate(${at(shown, 70)})`} fill="var(--now)" stroke="none" />
      <Bolt r={44} level={0} />
      <path d={`M ${at(0, 20)} L ${at(0, 38)}`} stroke="var(--ink)" strokeWidth="4" />
      <text fontSize="18" fontWeight="700" textAnchor="middle" fill="var(--ink)" stroke="none" dy="-0.1em">
        {degrees === 360 ? tr("1 turn") : degrees === 90 ? tr("¼ turn") : degrees === 180 ? tr("½ turn") : `${degrees}°`}
      </text>
    </svg>
  );
}
