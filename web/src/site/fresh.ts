import { useQueryClient } from "@tanstack/react-query";

/** Has the site read again, and what shows its name, its areas and its people. */
export function useFreshSite() {
  const queries = useQueryClient();
  return () => {
    for (const key of ["site", "session", "wall"]) void queries.invalidateQueries({ queryKey: [key] });
  };
}
