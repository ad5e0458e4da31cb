import type { StageTool } from "../api/types";
import { number } from "./format";
import classes from "./ui.module.css";

/** A wrench's scale as the hand that sets it sees it: the main mark at the line, the thimble's mark beside it. */
export function ScaleView({ tool, words = true }: { tool: Pick<StageTool, "scale" | "setting" | "tools">; words?: boolean }) {
  const { first, major, minor, main, minors } = tool.scale;
  const perTurn = Math.max(1, Math.round(major / minor));
  // Where the main mark stands above the reading line: as far as the thimble was turned.
  const rise = (minors / perTurn) * 20;
  const mains = [3, 2, 1, 0, -1, -2].map((k) => ({ k, value: main + k * major })).filter((m) => m.value >= first - major / 1e6);
  const thimble = [2, 1, 0, -1, -2].map((k) => ({ k, mark: (((minors + k) % perTurn) + perTurn) % perTurn }));
  return (
    <div className={classes.scale}>
      <svg
        viewBox="0 0 300 116"
        className={classes.scaleDrawing}
        role="img"
        aria-label={`The scale at ${number(tool.setting.value)} ${tool.setting.unit}`}
      >
        <defs>
          <clipPath id="body">
            <rect x="2" y="5" width="158" height="106" />
          </clipPath>
          <clipPath id="drum">
            <rect x="160" y="2" width="138" height="112" />
          </clipPath>
        </defs>
        <rect x="2" y="5" width="158" height="106" fill="var(--steel)" stroke="var(--soft)" />
        <g clipPath="url(#body)" fill="var(--steel-ink)" stroke="var(--steel-ink)">
          <line x1="122" x2="122" y1="5" y2="111" strokeWidth="1.4" />
          {mains.map(({ k, value }) => {
            const y = 58 - k * 20 + rise;
            return (
              <g key={k}>
                <line x1="86" x2="160" y1={y} y2={y} strokeWidth={k === 0 ? 2.6 : 1.3} />
                <text
                  x="78"
                  y={y + 5}
                  textAnchor="end"
                  fontSize={k === 0 ? 17 : 14}
                  fontWeight={k === 0 ? 700 : 400}
                  stroke="none"
                  fontFamily="Atkinson Hyperlegible Mono"
                >
                  {number(value)}
                </text>
              </g>
            );
          })}
        </g>
        <rect x="160" y="2" width="138" height="112" fill="var(--steel-deep)" stroke="var(--soft)" />
        <g clipPath="url(#drum)" fill="var(--steel-ink)" stroke="var(--steel-ink)">
          {thimble.map(({ k, mark }) => (
            <g key={k}>
              <line
                x1="160"
                x2={k === 0 ? 206 : 186}
                y1={58 - k * 22}
                y2={58 - k * 22}
                strokeWidth={k === 0 ? 3.4 : 1.3}
                stroke={k === 0 ? "var(--now)" : undefined}
              />
              <text
                x="222"
                y={58 - k * 22 + 5}
                fontSize={k === 0 ? 18 : 14}
                fontWeight={k === 0 ? 700 : 400}
                stroke="none"
                fill={k === 0 ? "var(--now)" : undefined}
                fontFamily="Atkinson Hyperlegible Mono"
              >
                {mark}
              </text>
            </g>
          ))}
        </g>
        <line x1="2" x2="298" y1="58" y2="58" stroke="var(--now)" strokeOpacity="0.35" strokeDasharray="3 4" />
      </svg>
      {words && (
        <p className={classes.scaleWords}>
          <b>{tool.tools.join(" + ")}</b>
          <br />
          main line <b className="mono">{number(main)}</b>
          <br />
          thimble <b className="mono">{minors}</b>
          <br />
          lock the collar
        </p>
      )}
    </div>
  );
}
