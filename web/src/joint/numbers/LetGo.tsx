import type { Group } from "../../api/types";
import { torque } from "../../ui/format";
import { Num } from "./Numbers";
import { Say } from "../../words/Say";

interface LetGoProps {
  of: string;
  range: NonNullable<Group["breakout"]>;
}

/** The range of torque at which nuts are expected to let go. */
export function LetGo({ of, range }: LetGoProps) {
  return (
    <>
      <Say
        of="{low} to {high}, most likely {likely}"
        with={{
          low: (
            <Num of={of} number="breakout/low">
              {torque(range.low)}
            </Num>
          ),
          high: (
            <Num of={of} number="breakout/high">
              <b>
                {torque(range.high)}
                {" N·m"}
              </b>
            </Num>
          ),
          likely: (
            <Num of={of} number="breakout/likely">
              {torque(range.likely)}
              {" N·m"}
            </Num>
          ),
        }}
      />
    </>
  );
}
