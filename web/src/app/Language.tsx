import { NativeSelect } from "@mantine/core";
import { useMutation, useQueryClient } from "@tanstack/react-query";
import { http, take } from "../api/client";
import { useSession } from "../api/queries";
import { change, locale, LOCALES, type Locale } from "../words/locale";

/** The word for it in every language there is: whoever cannot read the one that is set has to find it. */
export const LANGUAGE = "Language · Sprache · Idioma · Język";

/** Which language somebody reads, and how numbers and dates go there: on this device, and for who is signed in on every one. */
export function Language() {
  const session = useSession();
  const queries = useQueryClient();
  const keep = useMutation({
    mutationFn: (id: Locale["id"]) => take(http.PUT("/api/session/locale", { body: { locale: id } })),
    // Without the server it is this device's alone, and who signs in here keeps what they had elsewhere.
    onSettled: (_, __, id) => {
      queries.setQueryData(["session"], session && { ...session, locale: id });
      change(id);
    },
  });
  return (
    <NativeSelect
      label={LANGUAGE}
      name="locale"
      value={locale}
      onChange={(e) => {
        const chosen = LOCALES.find((l) => l.id === e.currentTarget.value);
        if (!chosen) return;
        if (session) keep.mutate(chosen.id);
        else change(chosen.id);
      }}
      data={LOCALES.map((l) => ({ value: l.id, label: l.name }))}
    />
  );
}
