import { useQuery } from "@tanstack/react-query";
import { http, take } from "../api/client";

/** The rings of a joint, as they are tried. */
export function useBenchJoint(joint: string | undefined) {
  return useQuery({
    queryKey: ["bench", joint],
    queryFn: () => take(http.GET("/api/joints/{joint}/bench", { params: { path: { joint: joint! } } })),
    enabled: joint !== undefined,
    // What is being tried does not change under the hand; the draft's version says whether it still fits when a way is taken.
    staleTime: Infinity,
    gcTime: 0,
  });
}

/** What moved in the check rounds of this site. */
export function useMoved() {
  return useQuery({ queryKey: ["bench-moved"], queryFn: () => take(http.GET("/api/bench/moved")) });
}

/** The drills, as whoever is signed in finds them; as they were kept where the server is not reached. */
export function useDrills() {
  return useQuery({ queryKey: ["drills"], queryFn: () => take(http.GET("/api/drills")) });
}
