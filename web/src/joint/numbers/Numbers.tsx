import { Drawer, Group, Stack } from "@mantine/core";
import { useQuery } from "@tanstack/react-query";
import { createContext, type KeyboardEvent, type ReactNode, useContext, useState } from "react";
import { http, take } from "../../api/client";
import type { Joint, NumberShown } from "../../api/types";
import { Refusal } from "../../ui/Refusal";
import classes from "./numbers.module.css";
import { told, tr, within } from "../../words/words";

export interface Which {
  of: string;
  number: string;
}

const Asking = createContext<((w: Which) => void) | undefined>(undefined);

interface NumbersProps {
  joint: Joint;
  /** Whose numbers: the draft's, or the newest plan's. */
  of: "draft" | "plan";
  children: ReactNode;
}

/** Lets each number on a screen say where it comes from. */
export function Numbers({ joint, of, children }: NumbersProps) {
  const [asked, setAsked] = useState<Which[]>([]);
  return (
    <Asking.Provider value={(w) => setAsked([...asked, w])}>
      {children}
      <Drawer
        opened={asked.length > 0}
        onClose={() => setAsked([])}
        position="right"
        size={560}
        title={<b>{tr("Where it comes from")}</b>}
        closeButtonProps={{ "aria-label": tr("Close") }}
        transitionProps={{ duration: 0 }}
      >
        {asked.length > 0 && <Sheet joint={joint} of={of} asked={asked} onAsk={setAsked} />}
      </Drawer>
    </Asking.Provider>
  );
}

/** What asks where a number comes from: touching it, or = on it. */
export function useAsks(w?: Which) {
  const ask = useContext(Asking);
  if (!w || !ask) return undefined;
  return {
    ask: () => ask(w),
    onKeyDown: (e: KeyboardEvent) => {
      if (e.key !== "=") return;
      e.preventDefault();
      e.stopPropagation();
      ask(w);
    },
  };
}

/** A number that can say where it comes from; long: words that may break. */
export function Num({ of, number, children, long }: Which & { children: ReactNode; long?: boolean }) {
  const asks = useAsks({ of, number });
  if (!asks) return <>{children}</>;
  return (
    <button
      type="button"
      className={classes.num}
      data-number={`${of}/${number}`}
      data-long={long || undefined}
      title={tr("Where it comes from: =")}
      onClick={asks.ask}
      onKeyDown={asks.onKeyDown}
    >
      {children}
    </button>
  );
}

interface SheetProps {
  joint: Joint;
  of: "draft" | "plan";
  asked: Which[];
  onAsk: (list: Which[]) => void;
}

function Sheet({ joint, of, asked, onAsk }: SheetProps) {
  const numbers = useQuery({
    queryKey: ["numbers", joint.id, of, of === "draft" ? joint.draft.version : `${joint.plan?.revision}/${joint.run?.entries}`],
    queryFn: () => take(http.GET("/api/joints/{joint}/numbers", { params: { path: { joint: joint.id }, query: { of } } })),
  });
  const which = asked.at(-1)!;
  if (numbers.isError) return <Refusal error={numbers.error} />;
  if (!numbers.data) return null;
  const find = (number?: string) => numbers.data.numbers.find((n) => n.of === which.of && n.key === number);
  const n = find(which.number);
  return (
    <Stack gap={16} data-sheet={n && `${n.of}/${n.key}`}>
      {n ? (
        <Shown n={n} known={(key) => Boolean(find(key))} onGo={(number) => onAsk([...asked, { of: which.of, number }])} />
      ) : (
        <p>{tr("It is taken as it was given; nothing is worked out for it.")}</p>
      )}
      <Group justify="space-between">
        {asked.length > 1 ? (
          <button type="button" className="link" onClick={() => onAsk(asked.slice(0, -1))}>
            {tr("Back to {number}", { number: within(told(find(asked.at(-2)!.number)?.name) ?? "") })}
          </button>
        ) : (
          <span />
        )}
        <a href={`/api/joints/${joint.id}/numbers/print?of=${of}`} download className="link">
          {tr("All of them, to print")}
        </a>
      </Group>
    </Stack>
  );
}

interface ShownProps {
  n: NumberShown;
  known: (key: string) => boolean;
  onGo: (key: string) => void;
}

function Shown({ n, known, onGo }: ShownProps) {
  return (
    <>
      <div>
        <h3 className={classes.name}>{told(n.name)}</h3>
        <p className={`mono ${classes.comes}`} data-part="comes">
          {told(n.comes)}
        </p>
      </div>
      <div className={classes.formulas}>
        <p className="mono" data-part="formula">
          {n.formula}
        </p>
        <p className="mono" data-part="numbers">
          {told(n.numbers)}
        </p>
      </div>
      <table className={classes.symbols}>
        <tbody>
          {n.symbols.map((s) => (
            <tr key={s.sign}>
              <th scope="row" className="mono">
                {s.sign}
              </th>
              <td>
                {told(s.name)}
                {s.from && (
                  <span className="soft">
                    {", "}
                    {told(s.from)}
                  </span>
                )}
              </td>
              <td className="mono">
                {s.key && known(s.key) ? (
                  <button
                    type="button"
                    className={classes.num}
                    onClick={() => onGo(s.key!)}
                    aria-label={tr("{amount}: where that comes from", { amount: s.amount })}
                  >
                    {s.amount}
                  </button>
                ) : (
                  s.amount
                )}
              </td>
            </tr>
          ))}
        </tbody>
      </table>
      <dl className={classes.known}>
        <dt>{tr("How sure")}</dt>
        <dd data-part="uncertain">{told(n.uncertain)}</dd>
        <dt>{tr("What moves it")}</dt>
        <dd data-part="changes">{told(n.changes)}</dd>
        <dt>{tr("Valid")}</dt>
        <dd>{told(n.valid)}</dd>
        <dt>{tr("Source")}</dt>
        <dd data-part="source">{told(n.source)}</dd>
      </dl>
    </>
  );
}
