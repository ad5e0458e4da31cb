import "@mantine/charts/styles.css";
import { LineChart } from "@mantine/charts";
import { number } from "../ui/format";
import { tr } from "../words/words";

/** One line a way, over the pulls; told apart by their dashes as well. */
const STROKES = [
  { color: "var(--held)", strokeDasharray: "0" },
  { color: "var(--now)", strokeDasharray: "7 4" },
  { color: "var(--plan)", strokeDasharray: "2 4" },
];

/** Loads over pulls, in kN. */
export default function Chart({ data, names }: { data: Record<string, number>[]; names: string[] }) {
  return (
    <LineChart
      h={210}
      data={data}
      dataKey="pull"
      series={names.map((name, i) => ({ name, ...STROKES[i]! }))}
      curveType="linear"
      withDots={false}
      strokeWidth={2.5}
      withLegend
      unit=" kN"
      valueFormatter={number}
      xAxisLabel={tr("pull")}
      gridColor="var(--line)"
      textColor="var(--soft)"
      lineChartProps={{ accessibilityLayer: true }}
    />
  );
}
