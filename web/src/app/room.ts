import { useQuery } from "@tanstack/react-query";

/** What is left of a device's room before it says so, bytes: some dozen photographs. */
export const SCARCE = 20e6;

/** How often it is looked at, ms. */
const AGAIN = 60_000;

/** The room that is left on this device for what is kept here, bytes; undefined where the browser does not say. */
export function useRoom(taken = 0) {
  return (
    useQuery({
      queryKey: ["room", taken],
      queryFn: async () => {
        const { quota, usage } = (await navigator.storage?.estimate?.()) ?? {};
        return quota === undefined || usage === undefined ? null : Math.max(0, quota - usage);
      },
      refetchInterval: AGAIN,
      networkMode: "always",
    }).data ?? undefined
  );
}
