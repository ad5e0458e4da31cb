import { Button, Group, Modal, TextInput } from "@mantine/core";
import { useMutation } from "@tanstack/react-query";
import { useState } from "react";
import { http, take } from "../api/client";
import { Refusal } from "../ui/Refusal";
import { tr } from "../words/words";

/** What is due as a calendar of one's own: a private address that a calendar program reads. */
export function Calendar({ onClose }: { onClose: () => void }) {
  const [gone, setGone] = useState(false);
  const make = useMutation({ mutationFn: () => take(http.POST("/api/calendar")), onSuccess: () => setGone(false) });
  const drop = useMutation({
    mutationFn: () => take(http.DELETE("/api/calendar")),
    onSuccess: () => {
      make.reset();
      setGone(true);
    },
  });
  const address = make.data && location.origin + make.data.path;
  return (
    <Modal opened onClose={onClose} title={<b>{tr("What is due, in your calendar")}</b>}>
      <p>{tr("Joints to be gone over again and tools to be calibrated, at a private address that your calendar program reads.")}</p>
      <p className="soft">
        {tr("Whoever knows the address reads what is due, and nothing else. It is shown once; a new one takes the place of the old.")}
      </p>
      {address && <TextInput label={tr("Address")} value={address} readOnly my={12} onFocus={(e) => e.currentTarget.select()} />}
      {gone && <p role="status">{tr("There is no address any more.")}</p>}
      <Refusal error={make.error ?? drop.error} />
      <Group justify="flex-end" mt={14}>
        <Button variant="default" loading={drop.isPending} onClick={() => drop.mutate()}>
          {tr("Take it away")}
        </Button>
        <Button color="plan" loading={make.isPending} onClick={() => make.mutate()}>
          {address ? tr("Another address") : tr("Make an address")}
        </Button>
      </Group>
    </Modal>
  );
}
