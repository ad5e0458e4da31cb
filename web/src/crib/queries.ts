import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { http, take } from "../api/client";
import type { NewLife, ToolCard } from "../api/types";

/** The board: every tool. */
export function useCrib() {
  return useQuery({ queryKey: ["crib"], queryFn: () => take(http.GET("/api/crib")), refetchInterval: 30_000 });
}

/** One tool with its life. */
export function useTool(tag: string | undefined) {
  return useQuery({
    queryKey: ["crib", tag],
    queryFn: () => take(http.GET("/api/crib/{tool}", { params: { path: { tool: tag! } } })),
    enabled: tag !== undefined,
  });
}

/** What is asked of a tool, by its kind. */
export function useToolKinds() {
  return useQuery({ queryKey: ["crib kinds"], queryFn: () => take(http.GET("/api/crib/kinds")), staleTime: Infinity });
}

/** Keeps what the server answered, and has everything that rests on tools read anew. */
export function useFreshCrib() {
  const queries = useQueryClient();
  return (card?: ToolCard) => {
    if (card) queries.setQueryData(["crib", card.tool.tag], card);
    void queries.invalidateQueries({ queryKey: ["crib"] });
    void queries.invalidateQueries({ queryKey: ["wall"] });
    void queries.invalidateQueries({ queryKey: ["joint"] });
  };
}

/** Says something of a tool. */
export function useLive(tag: string, onDone?: () => void) {
  const fresh = useFreshCrib();
  return useMutation({
    mutationFn: (life: NewLife) => take(http.POST("/api/crib/{tool}/life", { params: { path: { tool: tag } }, body: life })),
    onSuccess: (card) => {
      fresh(card);
      onDone?.();
    },
  });
}
