import type { DrillKind } from "../../api/types";
import classes from "./drills.module.css";

/** What a drill is about, drawn small. */
export function Mark({ kind }: { kind: DrillKind }) {
  return (
    <svg viewBox="0 0 64 64" className={classes.mark} aria-hidden>
      {marks[kind]}
    </svg>
  );
}

const around = (n: number, r: number) =>
  Array.from({ length: n }, (_, i) => {
    const a = (2 * Math.PI * (i + 0.5)) / n;
    return [32 + r * Math.sin(a), 32 - r * Math.cos(a)] as const;
  });

const marks: Record<DrillKind, React.ReactNode> = {
  "set it": (
    <>
      <path d="M24 6v30M40 6v30M24 14h8M24 22h8M24 30h8" />
      <rect x="18" y="36" width="28" height="22" rx="3" data-full />
      <path d="M32 36v10" data-now />
    </>
  ),
  "read it": (
    <>
      <circle cx="32" cy="34" r="24" />
      <path d="M32 34L46 20" data-now />
      <path d="M13 42l5-2M15 24l4 3M32 12v6M51 42l-5-2" />
    </>
  ),
  "which bolt next": (
    <>
      <circle cx="32" cy="32" r="23" />
      {around(8, 23).map(([x, y], i) => (
        <circle key={x} cx={x} cy={y} r="6" data-full={i % 2 === 0 || undefined} data-next={i === 3 || undefined} />
      ))}
    </>
  ),
  "order the parts": (
    <>
      <path d="M2 32h60" strokeDasharray="5 4" />
      <rect x="8" y="16" width="10" height="32" />
      <rect x="27" y="22" width="6" height="20" data-full />
      <path d="M42 14h8v8h6v20h-6v8h-8z" />
    </>
  ),
  "hold the pressure": (
    <>
      <path d="M10 48a26 26 0 1 1 44 0" />
      <path d="M32 34l10-14" data-now />
      <path d="M22 58h20M32 46v12" />
    </>
  ),
  "what is wrong here": (
    <>
      <path d="M8 8v48h50" />
      <path d="M8 52l14-6 12-22 6 10 12-22" data-now />
    </>
  ),
  "one click and stop": (
    <>
      <circle cx="16" cy="40" r="10" />
      <path d="M24 36L58 22M25 44l35-15" />
      <path d="M10 22l-5-8M20 20v-10" data-now />
    </>
  ),
  "convert it": (
    <>
      <path d="M6 22h52M6 42h52M12 22v-8M26 22v-6M40 22v-8M54 22v-6M12 42v8M22 42v6M32 42v8M42 42v6M52 42v8" />
      <path d="M32 26v12" data-now />
    </>
  ),
};
