import { Button, Group as Row } from "@mantine/core";
import type { RefObject } from "react";
import { tr } from "../words/words";
import { csvOf, save, svgOf } from "./save";

interface SavesProps {
  name: string;
  /** Where the chart is drawn. */
  box: RefObject<HTMLDivElement | null>;
  rows: () => (string | number)[][];
}

/** A chart kept as a picture, and its numbers. */
export function Saves({ name, box, rows }: SavesProps) {
  return (
    <Row gap={8}>
      <Button
        variant="default"
        onClick={() => {
          const svg = box.current?.querySelector("svg.recharts-surface");
          if (svg instanceof SVGSVGElement) save(`${name}.svg`, "image/svg+xml", svgOf(svg));
        }}
      >
        {tr("Save the picture (SVG)")}
      </Button>
      <Button variant="default" onClick={() => save(`${name}.csv`, "text/csv", csvOf(rows()))}>
        {tr("Save the numbers (CSV)")}
      </Button>
    </Row>
  );
}
