import { Button, Group, Modal } from "@mantine/core";
import { useEffect, useState } from "react";
import { notAPedal, pedal } from "../../app/pedal";
import { tr } from "../../words/words";

const FAR = "dynacor-far";

/** Whether Tighten is read from a tablet on a stand, at arm's length: remembered by the device. */
export function useFar() {
  const [on, setOn] = useState(() => localStorage.getItem(FAR) === "on");
  const turn = () => {
    localStorage.setItem(FAR, on ? "off" : "on");
    setOn(!on);
  };
  return { on, turn };
}

/** Learns the key of a foot pedal, once for this device. */
export function Pedal() {
  const [learning, setLearning] = useState(false);
  const [known, setKnown] = useState(() => pedal.key());
  const [why, setWhy] = useState("");
  useEffect(() => {
    if (!learning) return;
    const listen = (e: KeyboardEvent) => {
      if (e.key === "Escape" || e.key === "Tab") return;
      e.preventDefault();
      e.stopPropagation();
      const no = notAPedal(e.key);
      setWhy(no);
      if (no) return;
      const key = [" ", "Enter", "PageDown"].includes(e.key) ? "" : e.key;
      pedal.set(key);
      setKnown(key);
      setLearning(false);
    };
    window.addEventListener("keydown", listen, true);
    return () => window.removeEventListener("keydown", listen, true);
  }, [learning]);
  return (
    <>
      <Button variant="default" onClick={() => setLearning(true)} data-pedal={known}>
        {known ? tr("Pedal {known}", { known }) : tr("Pedal")}
      </Button>
      {learning && (
        <Modal opened onClose={() => setLearning(false)} title={<b>{tr("Press the pedal")}</b>}>
          <p className="big" data-learning>
            {tr("Press it once: what it sends is the space bar’s from now on, on this device.")}
          </p>
          {why && <p role="alert">{tr("{why} Have the pedal send another key.", { why })}</p>}
          {known && (
            <Group mt={10}>
              <Button
                variant="default"
                onClick={() => {
                  pedal.set("");
                  setKnown("");
                  setLearning(false);
                }}
              >
                {tr("Forget {known}", { known })}
              </Button>
            </Group>
          )}
        </Modal>
      )}
    </>
  );
}
