import { useQuery } from "@tanstack/react-query";
import { useEffect, useSyncExternalStore } from "react";
import { http, take } from "../api/client";
import { language, spoken } from "../words/locale";
import { keepWords } from "../words/own";
import { ownWords, takeOwn } from "../words/words";

/** Hears of the site's own words in the page's language, and returns another number each time they are others. */
export function useOwnWords(signedIn: boolean) {
  const own = useQuery({
    queryKey: ["terms", language],
    queryFn: () => (spoken(language) ? take(http.GET("/api/terms/{language}", { params: { path: { language } } })) : null),
    enabled: signedIn && spoken(language),
    staleTime: 5 * 60_000,
  }).data;
  useEffect(() => {
    if (own && takeOwn(own)) void keepWords(language, own);
  }, [own]);
  return useSyncExternalStore(ownWords.subscribe, ownWords.version);
}
