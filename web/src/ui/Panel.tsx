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
          {aside && <span className={classes.aside}>{aside}</span>}
        </h2>
      )}
      {children}
    </section>
  );
}
