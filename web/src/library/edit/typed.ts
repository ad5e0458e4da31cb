import { useState } from "react";

/**
 * A text as it is typed for a value that is kept otherwise: a list, a range. What is typed stays while it says the value,
 * or says nothing yet; where the value is changed from elsewhere, undone say, it is shown anew. says is how a typed text is
 * written for the value it says; undefined where it says none.
 */
export function useTyped(value: string, says: (typed: string) => string | undefined) {
  const [typed, setTyped] = useState({ text: value, at: value });
  const said = says(typed.text);
  const own = said === undefined ? typed.at === value : said === value;
  return { shown: own ? typed.text : value, wrong: own && said === undefined, type: (text: string) => setTyped({ text, at: value }) };
}
