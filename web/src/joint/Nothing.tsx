import { Button } from "@mantine/core";
import { useNavigate } from "react-router";
import type { Joint } from "../api/types";
import { Panel } from "../ui/Panel";
import classes from "./nothing.module.css";

/** What a station says before its time, and where to go instead. */
export function Nothing({ joint, what, station, act }: { joint: Joint; what: string; station: number; act: string }) {
  const navigate = useNavigate();
  return (
    <Panel className={classes.nothing}>
      <p>{what}</p>
      <Button color="plan" onClick={() => void navigate(`/joint/${joint.id}/${station}`)}>
        {act}
      </Button>
    </Panel>
  );
}
