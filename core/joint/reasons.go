package joint

import "dynacor/core/preload"

// Renewed drops the reasons of in whose row is another than it was: one was given for
// other numbers. was and before are the input and the result that they were given on.
func Renewed(in, was Input, res, before Result) Input {
	kept := map[string]string{}
	now, then := answerable(res), answerable(before)
	for key, reason := range in.Reasons {
		if was.Reasons[key] != reason || now[key] == then[key] {
			kept[key] = reason
		}
	}
	in.Reasons = kept
	if len(kept) == 0 {
		in.Reasons = nil
	}
	return in
}

// Answers is the key of the reason that a row waits for; empty where it holds, or asks
// for none.
func Answers(group string, row preload.Check) string {
	if row.Holds || row.Informs {
		return ""
	}
	return group + "/" + row.Key
}

// answerable are the rows that do not hold and may be answered, in words, by group and
// row.
func answerable(r Result) map[string]string {
	out := map[string]string{}
	for _, g := range r.Groups {
		for _, rows := range [][]preload.Check{g.Window, g.Stays} {
			for _, row := range rows {
				if key := Answers(g.Name, row); key != "" {
					out[key] = row.Words()
				}
			}
		}
	}
	return out
}
