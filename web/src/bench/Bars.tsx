import "@mantine/charts/styles.css";
import { BarChart } from "@mantine/charts";
import { number } from "../ui/format";

const COLOURS = ["var(--plan)", "var(--held)", "var(--mind)", "var(--soft)"];

/** Shares of nuts, one bar a round, side by side for each kind. */
export default function Bars({ data, names }: { data: Record<string, string | number>[]; names: string[] }) {
  return (
    <BarChart
      h={240}
      data={data}
      dataKey="kind"
      series={names.map((name, i) => ({ name, color: COLOURS[i % COLOURS.length]! }))}
      withLegend
      unit=" %"
      valueFormatter={number}
      gridColor="var(--line)"
      textColor="var(--soft)"
      barChartProps={{ accessibilityLayer: true }}
    />
  );
}
