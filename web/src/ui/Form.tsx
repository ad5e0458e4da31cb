import { Button, Group, Modal, Stack } from "@mantine/core";
import type { ReactNode } from "react";
import { tr } from "../words/words";

interface FormProps {
  onSend: () => void;
  children: ReactNode;
}

/** Fields one below the other, sent by Enter. */
export function Form({ onSend, children }: FormProps) {
  return (
    <Stack
      component="form"
      gap={14}
      onSubmit={(e) => {
        e.preventDefault();
        onSend();
      }}
    >
      {children}
    </Stack>
  );
}

interface DialogProps {
  title: ReactNode;
  act: string;
  color?: string;
  /** What leaves it as it was. */
  no?: string;
  ready?: boolean;
  busy?: boolean;
  size?: number;
  /** A second act, beside the first. */
  also?: ReactNode;
  onClose: () => void;
  onAct: () => void;
  children: ReactNode;
}

/** Asks for something, and does it or leaves it. */
export function Dialog({
  title,
  act,
  color = "plan",
  no = tr("Not now"),
  ready = true,
  busy,
  size,
  also,
  onClose,
  onAct,
  children,
}: DialogProps) {
  return (
    <Modal opened onClose={onClose} title={<b>{title}</b>} size={size}>
      <Form onSend={() => ready && !busy && onAct()}>
        {children}
        <Group gap={12} justify="flex-end">
          <Button variant="default" onClick={onClose}>
            {no}
          </Button>
          {also}
          <Button type="submit" color={color} loading={busy} disabled={!ready}>
            {act}
          </Button>
        </Group>
      </Form>
    </Modal>
  );
}
