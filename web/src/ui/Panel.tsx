import { Text } from "@mantine/core";
import type { ReactNode } from "react";
import classes from "./ui.module.css";

interface PanelProps {
  title?: ReactNode;
  aside?: ReactNode;
  kind?: "mind" | "stop" | "held" | "now";
  className?: string;
  children: ReactNode;
}

export function Panel({ title, aside, kind, className, children }: PanelProps) {
  return (
    <section className={className ? `${classes.panel} ${className}` : classes.panel} data-kind={kind}>
      {title && (
        <h2 className={classes.panelTitle}>
          <span>{title}</span>
          {aside && (
            <Text span fw={400}>
              {aside}
            </Text>
          )}
        </h2>
      )}
      {children}
    </section>
  );
}
