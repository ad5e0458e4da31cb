import { Button, SegmentedControl, Textarea } from "@mantine/core";
import { useInputState } from "@mantine/hooks";
import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { Link } from "react-router";
import { http, take } from "../api/client";
import { useMay } from "../api/queries";
import type { WallDevice } from "../api/types";
import { dateTime } from "../ui/format";
import { Dialog } from "../ui/Form";
import { Refusal } from "../ui/Refusal";
import classes from "./wall.module.css";
import { tr } from "../words/words";

/** Devices that have something of ours: acts that wait, or joints in hand while nothing is heard of them. */
export function Silent({ devices }: { devices: WallDevice[] }) {
  const may = useMay("engineer", "planner", "administrator");
  const [gone, setGone] = useState<WallDevice>();
  if (devices.length === 0) return null;
  return (
    <>
      <h2>{tr("Not all here yet")}</h2>
      {devices.map((d) => (
        <div key={d.id} className="edge" data-edge={d.silent ? "stop" : "mind"} data-device={d.name || d.by}>
          <b>{called(d)}</b>
          {d.acts > 0 && (
            <p>
              {d.since
                ? tr("{count} acts wait on it, since {since}.", { count: d.acts, since: dateTime(d.since) })
                : tr("{count} acts wait on it.", { count: d.acts })}
            </p>
          )}
          {d.silent && <p>{tr("Not heard of since {seen}: what was done there may be on it.", { seen: dateTime(d.seen) })}</p>}
          {d.joints.length > 0 && (
            <p className="soft">
              {tr("It took")}{" "}
              {d.joints.map((j, i) => (
                <span key={j.id}>
                  {i > 0 && ", "}
                  <Link to={`/joint/${j.id}`} className="mono link">
                    {j.tag}
                  </Link>
                </span>
              ))}
            </p>
          )}
          {may && d.silent && (
            <Button variant="default" className={classes.gone} onClick={() => setGone(d)}>
              {tr("It is found, or lost")}
            </Button>
          )}
        </div>
      ))}
      {gone && <Gone device={gone} onClose={() => setGone(undefined)} />}
    </>
  );
}

const called = (d: WallDevice) => (d.name ? `${d.name}, ${d.by}` : tr("The device of {by}", { by: d.by }));

/** No longer looks for a device, and says why: the site's log keeps what it had, and of one that is lost the records do. */
function Gone({ device: d, onClose }: { device: WallDevice; onClose: () => void }) {
  const queries = useQueryClient();
  const [why, setWhy] = useInputState("");
  const [lost, setLost] = useState(true);
  const gone = useMutation({
    mutationFn: () => take(http.DELETE("/api/devices/{device}", { params: { path: { device: d.id } }, body: { why, lost } })),
    onSuccess: async () => {
      await queries.invalidateQueries({ queryKey: ["wall"] });
      onClose();
    },
  });
  return (
    <Dialog
      title={tr("{d}: look for it no longer", { d: called(d) })}
      act={tr("Look no longer")}
      color="plan"
      ready={why.trim() !== ""}
      busy={gone.isPending}
      onClose={onClose}
      onAct={() => gone.mutate()}
    >
      <SegmentedControl
        fullWidth
        size="md"
        aria-label={tr("What became of it?")}
        value={lost ? "lost" : "found"}
        onChange={(v) => setLost(v === "lost")}
        data={[
          { value: "lost", label: tr("lost or wiped") },
          { value: "found", label: tr("found, and all of it is sent") },
        ]}
      />
      <p>
        {lost
          ? tr(
              "What it had not sent is in no record: bolts that were pulled there count as not pulled, and are made and proven again. The record of each joint that it had, and is not signed, says so.",
            )
          : tr("The site’s log keeps that it was found.")}
      </p>
      <Textarea label={tr("How, and where?")} value={why} onChange={setWhy} minRows={2} name="why" data-autofocus />
      <Refusal error={gone.error} />
    </Dialog>
  );
}
