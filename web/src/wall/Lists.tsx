import { Button, Menu, NativeSelect } from "@mantine/core";
import { useInputState } from "@mantine/hooks";
import { useState } from "react";
import { Link } from "react-router";
import { useMay, useSession } from "../api/queries";
import { Dialog } from "../ui/Form";
import classes from "./wall.module.css";
import { tr } from "../words/words";

/** What comes in and goes out as files: joints from planning, lists, signed records, cards. */
export function Lists() {
  const plans = useMay("engineer", "planner");
  const lists = useMay("engineer", "planner", "inspector", "administrator");
  const [open, setOpen] = useState<"cards" | "records">();
  return (
    <>
      <Menu position="bottom-end" width={280}>
        <Menu.Target>
          <Button variant="default">{tr("Lists")}</Button>
        </Menu.Target>
        <Menu.Dropdown className={classes.lists}>
          {plans && (
            <Menu.Item component={Link} to="/planning">
              {tr("Joints from planning")}
            </Menu.Item>
          )}
          {lists && (
            <>
              <Menu.Item component="a" href="/api/list/xlsx">
                {tr("All joints, as XLSX")}
              </Menu.Item>
              <Menu.Item component="a" href="/api/list/csv">
                {tr("All joints, as CSV")}
              </Menu.Item>
            </>
          )}
          <Menu.Item onClick={() => setOpen("records")}>{tr("Signed records, as one PDF")}</Menu.Item>
          <Menu.Item onClick={() => setOpen("cards")}>{tr("Cards for the joints")}</Menu.Item>
        </Menu.Dropdown>
      </Menu>
      {open === "records" && <Records onClose={() => setOpen(undefined)} />}
      {open === "cards" && <Cards onClose={() => setOpen(undefined)} />}
    </>
  );
}

function useAreas() {
  return [{ value: "", label: tr("every area") }, ...(useSession()?.site.areas ?? []).map((a) => ({ value: a.id, label: a.name }))];
}

function Records({ onClose }: { onClose: () => void }) {
  const areas = useAreas();
  const [area, setArea] = useInputState("");
  return (
    <Dialog
      title={tr("Signed records")}
      act={tr("Write them")}
      onClose={onClose}
      onAct={() => fetched(`/api/pack${area && `?area=${area}`}`, onClose)}
    >
      <p>{tr("By area, with their list before them. Each can be verified without a server.")}</p>
      <NativeSelect label={tr("Of")} data={areas} value={area} onChange={setArea} />
    </Dialog>
  );
}

const sizes = [1, 4, 8] as const;

/** Cards to hang at the joints: a code that opens the joint, its drawing, what it is pulled to and in which order. */
function Cards({ onClose }: { onClose: () => void }) {
  const areas = useAreas();
  const [area, setArea] = useInputState("");
  const [on, setOn] = useState<(typeof sizes)[number]>(4);
  return (
    <Dialog
      title={tr("Cards for the joints")}
      act={tr("Write them")}
      onClose={onClose}
      onAct={() => fetched(`/api/cards?on=${on}${area && `&area=${area}`}`, onClose)}
    >
      <p>{tr("Each has a code that opens the joint on a phone, after sign-in, and what its plan says. A newer plan wins over a card.")}</p>
      <fieldset className={classes.sizes}>
        <legend>{tr("How many on a sheet")}</legend>
        {sizes.map((n) => (
          <button key={n} type="button" className="pick" aria-pressed={on === n} onClick={() => setOn(n)}>
            <svg viewBox="0 0 42 60" width="42" height="60" aria-hidden="true">
              <rect x="1" y="1" width="40" height="58" />
              {n > 1 && <path d="M21 1 V59 M1 30 H41" />}
              {n === 8 && <path d="M1 15.5 H41 M1 44.5 H41" />}
            </svg>
            <span>{n}</span>
          </button>
        ))}
      </fieldset>
      <NativeSelect label={tr("Of")} data={areas} value={area} onChange={setArea} />
    </Dialog>
  );
}

/** Has the browser fetch a file, as a link does. */
function fetched(url: string, then: () => void) {
  const a = document.createElement("a");
  a.href = url;
  a.download = "";
  a.click();
  then();
}
