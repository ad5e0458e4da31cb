import { Button, Stack } from "@mantine/core";
import { useNavigate } from "react-router";
import type { Joint } from "../api/types";
import { Panel } from "../ui/Panel";

/** What a station says before its time, and where to go instead. */
export function Nothing({ joint, what, station, act }: { joint: Joint; what: string; station: number; act: string }) {
  const navigate = useNavigate();
  return (
    <Stack maw={560} mx="auto" mt="12vh" fz={19}>
      <Panel>
        <p>{what}</p>
        <Button color="plan" mt={20} onClick={() => void navigate(`/joint/${joint.id}/${station}`)}>
          {act}
        </Button>
      </Panel>
    </Stack>
  );
}
