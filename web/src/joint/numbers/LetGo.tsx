import type { Group } from "../../api/types";
import { torque } from "../../ui/format";
import { Num } from "./Numbers";

interface LetGoProps {
  of: string;
  range: NonNullable<Group["breakout"]>;
}

/** The range of torque at which nuts are expected to let go. */
export function LetGo({ of, range }: LetGoProps) {
  return (
    <>
      <Num of={of} number="breakout/low">
        {torque(range.low)}
      </Num>{" "}
      to{" "}
      <Num of={of} number="breakout/high">
        <b>{torque(range.high)} N·m</b>
      </Num>
      , most likely{" "}
      <Num of={of} number="breakout/likely">
        {torque(range.likely)} N·m
      </Num>
    </>
  );
}
