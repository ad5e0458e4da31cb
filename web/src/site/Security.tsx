import { Button, Group } from "@mantine/core";
import { useInfiniteQuery } from "@tanstack/react-query";
import { useState } from "react";
import { http, take } from "../api/client";
import { dateTime } from "../ui/format";
import { Panel } from "../ui/Panel";
import { Refusal } from "../ui/Refusal";
import { FIRST } from "./Log";
import classes from "./site.module.css";
import { told, tr } from "../words/words";

/** Who came in and could not, what was refused, and what went out. */
export function Security() {
  const log = useInfiniteQuery({
    queryKey: ["security"],
    queryFn: ({ pageParam }) => take(http.GET("/api/site/security", { params: { query: pageParam ? { before: pageParam } : {} } })),
    initialPageParam: 0,
    getNextPageParam: (page) => page.events.at(-1)?.id,
  });
  const [most, setMost] = useState(FIRST);
  const events = log.data?.pages.flatMap((p) => p.events) ?? [];
  const more = () => {
    if (most + 50 > events.length && log.hasNextPage) void log.fetchNextPage();
    setMost(most + 50);
  };
  return (
    <Panel title={tr("Security")} aside={tr("it only grows")}>
      <Refusal error={log.error} />
      <ol className={classes.security}>
        {events.slice(0, most).map((e) => (
          <li key={e.id} data-kind={e.kind}>
            <svg viewBox="0 0 16 16" width="16" height="16" aria-hidden="true">
              {e.kind === "signed in" && <path d="M2 8 H12 M8 3 L13 8 L8 13" />}
              {e.kind === "signed out" && <path d="M14 8 H4 M8 3 L3 8 L8 13" />}
              {(e.kind === "wrong PIN" || e.kind === "refused") && <path d="M3 3 L13 13 M13 3 L3 13" />}
              {e.kind === "waits after wrong PINs" && <path d="M8 2 L15 14 H1 Z" />}
              {e.kind === "rights changed" && <path d="M3 8 L7 12 L14 4" />}
              {e.kind === "exported" && <path d="M8 2 V11 M4 7 L8 11 L12 7 M3 14 H13" />}
            </svg>
            <span>
              <b>{e.by || e.login || tr("the command line")}</b> {told(e.kind)}
              {e.words && `: ${told(e.words)}`}
              <small>
                {dateTime(e.at)}
                {e.address && tr(", from {address}", { address: e.address })}
              </small>
            </span>
          </li>
        ))}
      </ol>
      <Group mt={10} gap={8}>
        {(events.length > most || (log.hasNextPage && events.length > FIRST)) && (
          <Button variant="default" loading={log.isFetchingNextPage} onClick={more}>
            {tr("Earlier")}
          </Button>
        )}
        <Button variant="default" component="a" href="/api/site/security/file">
          {tr("All of it, as JSON lines")}
        </Button>
      </Group>
    </Panel>
  );
}
