package recipe

import (
	"cmp"
	"fmt"
	"maps"
	"reflect"
	"slices"
	"strconv"
	"strings"
)

// Change is one thing in which two editions differ.
type Change struct {
	Where string // the words of the place: "step gap, limit"
	What  What
	Was   string // empty where it is new
	Is    string // empty where it is gone
}

// What came of a thing from one edition to the next.
type What string

// What can come of it. Moved: it comes at another place among those that both have.
const (
	Added   What = "added"
	Gone    What = "gone"
	Changed What = "changed"
	Moved   What = "moved"
)

// Compare lists in what two editions differ, in the order of the file: things of a list are
// told by their names, so that one more step at the beginning is one change. The edition's
// number, which always differs, is left out.
func Compare(was, is Recipe) []Change {
	was.Edition = is.Edition
	var c comparer
	c.fields("", reflect.ValueOf(was), reflect.ValueOf(is))
	return c.out
}

type comparer struct{ out []Change }

func (c *comparer) say(where string, what What, was, is string) {
	c.out = append(c.out, Change{Where: where, What: what, Was: was, Is: is})
}

// spoken are the fields of a file that are no words by themselves.
var spoken = map[string]string{"does": "kind", "text": "words", "when": "variants", "by": "done by", "release": "released by",
	"beyond": "kept outside by", "holdof": "waits as long as", "hold": "waits", "evenof": "even, of", "highof": "at most, of", "upperlast": "upper bolts last",
	"nosockets": "no sockets", "boltleast": "least in the bolts", "boltmost": "most in the bolts", "plate": "from the nameplate",
	"needs": "values", "spots": "names of the places", "voided": "voided by"}

// fields compares two structs field by field.
func (c *comparer) fields(where string, was, is reflect.Value) {
	for i := range was.NumField() {
		name := strings.ToLower(was.Type().Field(i).Name)
		name = cmp.Or(spoken[name], name)
		if where != "" {
			name = where + ", " + name
		}
		c.value(name, was.Field(i), is.Field(i))
	}
}

func (c *comparer) value(where string, was, is reflect.Value) {
	if reflect.DeepEqual(was.Interface(), is.Interface()) || was.IsZero() && is.IsZero() {
		return
	}
	switch t := was.Type(); {
	case t == reflect.TypeFor[*Limit]() && !was.IsNil() && !is.IsNil():
		c.limit(where, *was.Interface().(*Limit), *is.Interface().(*Limit))
	case t.Kind() == reflect.Pointer && t.Elem().Kind() == reflect.Struct && !was.IsNil() && !is.IsNil():
		c.fields(where, was.Elem(), is.Elem())
	case t.Kind() == reflect.Slice && t.Elem().Kind() == reflect.Struct:
		c.list(where, was, is)
	case t == reflect.TypeFor[map[string]map[string]string]():
		c.texts(was.Interface().(map[string]map[string]string), is.Interface().(map[string]map[string]string))
	default:
		c.one(where, was, is)
	}
}

// limit says a limit as a whole, and what else of it changed.
func (c *comparer) limit(where string, was, is Limit) {
	if was.Words() != is.Words() {
		c.say(where, Changed, was.Words(), is.Words())
		was.Low, was.High, was.Even, was.Of, was.HighOf, was.EvenOf, was.Plus, was.Above, was.Unit, was.Word = is.Low, is.High, is.Even,
			is.Of, is.HighOf, is.EvenOf, is.Plus, is.Above, is.Unit, is.Word
	}
	c.fields(where, reflect.ValueOf(was), reflect.ValueOf(is))
}

// texts says what is said otherwise in another language, each text by its English.
func (c *comparer) texts(was, is map[string]map[string]string) {
	for _, language := range slices.Sorted(maps.Keys(joined(was, is))) {
		for _, english := range slices.Sorted(maps.Keys(joined(was[language], is[language]))) {
			c.value("texts, "+strings.ToUpper(language)+", "+english, reflect.ValueOf(was[language][english]),
				reflect.ValueOf(is[language][english]))
		}
	}
}

// joined has the keys of both.
func joined[V any](a, b map[string]V) map[string]V {
	out := maps.Clone(a)
	if out == nil {
		return b
	}
	maps.Copy(out, b)
	return out
}

// one says a thing that is told as a whole.
func (c *comparer) one(where string, was, is reflect.Value) {
	switch {
	case was.IsZero():
		c.say(where, Added, "", wording(is))
	case is.IsZero():
		c.say(where, Gone, wording(was), "")
	default:
		c.say(where, Changed, wording(was), wording(is))
	}
}

// list compares two lists whose things have names: which are gone, which are new, which
// come at another place, and what of each that both have is another.
func (c *comparer) list(where string, was, is reflect.Value) {
	before, now := keyed(was), keyed(is)
	thing := strings.TrimSuffix(where, "s")
	if where == "sheet, rows" {
		thing = "sheet, row"
	}
	for i, key := range before {
		if !slices.Contains(now, key) {
			c.say(thing+" "+key, Gone, sum(was.Index(i)), "")
		}
	}
	stay := risen(before, now)
	for k, key := range now {
		i := slices.Index(before, key)
		if i < 0 {
			c.say(thing+" "+key, Added, "", sum(is.Index(k)))
			continue
		}
		if !slices.Contains(stay, key) {
			c.say(thing+" "+key, Moved, follows(before, i), follows(now, k))
		}
		c.fields(thing+" "+key, was.Index(i), is.Index(k))
	}
}

func follows(keys []string, i int) string {
	if i == 0 {
		return "first"
	}
	return "after " + keys[i-1]
}

// risen are the keys that both lists have and that need not move: the longest row of them
// that is in the same order in both.
func risen(before, now []string) []string {
	var at []int // place before of each that is there now
	for _, key := range now {
		if i := slices.Index(before, key); i >= 0 {
			at = append(at, i)
		}
	}
	best, from := make([]int, len(at)), make([]int, len(at))
	last := -1
	for k := range at {
		best[k], from[k] = 1, -1
		for j := range k {
			if at[j] < at[k] && best[j]+1 > best[k] {
				best[k], from[k] = best[j]+1, j
			}
		}
		if last < 0 || best[k] > best[last] {
			last = k
		}
	}
	var out []string
	for ; last >= 0; last = from[last] {
		out = append(out, before[at[last]])
	}
	return out
}

// keyed names the things of a list: by id, name or what they say, a row of the sheet by type,
// size and variant; the second of the same name is told apart.
func keyed(list reflect.Value) []string {
	out := make([]string, list.Len())
	count := map[string]int{}
	for i := range out {
		key := keyOf(list.Index(i).Interface())
		if count[key]++; count[key] > 1 {
			key = fmt.Sprintf("%s (%d)", key, count[key])
		}
		out[i] = key
	}
	return out
}

func keyOf(thing any) string {
	switch x := thing.(type) {
	case Choice:
		return x.Name
	case Need:
		return x.Name
	case Part:
		return x.Name
	case Group:
		return x.Name
	case Repeat:
		return x.Name
	case Step:
		return x.ID
	case Read:
		return x.Name
	case Comparison:
		return x.Of
	case Tick:
		return strings.Trim(x.Part+" "+x.Text, " ")
	case Thing:
		return x.Text
	case Caution:
		return x.Text
	case Row:
		return strings.Trim(x.Type+" "+x.Size+" "+x.When.Words(), " ")
	}
	return ""
}

// sum says a whole thing in a few words, where its name does not.
func sum(v reflect.Value) string {
	switch x := v.Interface().(type) {
	case Step:
		return fmt.Sprintf("%s, %s: %s", x.Station, x.Does, x.Text)
	case Choice:
		return x.Text + ": " + strings.Join(x.Options, " or ")
	case Need:
		return strings.TrimSpace(x.Text + " " + string(x.Unit) + x.Word)
	case Part:
		return strings.TrimSpace(x.Name + " " + x.Facing())
	case Group:
		return strings.Join(x.Words(), "; ")
	case Read:
		if x.Limit != nil {
			return strings.TrimSpace(string(x.Form) + " " + x.Limit.Words())
		}
		return string(x.Form)
	case Caution:
		return x.String()
	}
	return wording(v)
}

// wording writes a value as somebody would say it.
func wording(v reflect.Value) string {
	switch v.Kind() {
	case reflect.Pointer:
		if v.IsNil() {
			return ""
		}
		if l, ok := v.Interface().(*Limit); ok {
			return l.Words()
		}
		return wording(v.Elem())
	case reflect.Slice:
		var out []string
		for i := range v.Len() {
			out = append(out, wording(v.Index(i)))
		}
		return strings.Join(out, ", ")
	case reflect.Map:
		var out []string
		for _, key := range slices.SortedFunc(maps.Keys(words(v)), strings.Compare) {
			out = append(out, key+" "+words(v)[key])
		}
		return strings.Join(out, ", ")
	case reflect.Struct:
		var out []string
		for i := range v.NumField() {
			if text := wording(v.Field(i)); text != "" && !v.Field(i).IsZero() {
				out = append(out, text)
			}
		}
		return strings.Join(out, ", ")
	case reflect.Bool:
		if v.Bool() {
			return "yes"
		}
		return "no"
	case reflect.Float64:
		return strconv.FormatFloat(v.Float(), 'g', -1, 64) // in full, so that what differs looks so
	}
	return fmt.Sprint(v.Interface())
}

func words(m reflect.Value) map[string]string {
	out := map[string]string{}
	for _, key := range m.MapKeys() {
		out[key.String()] = wording(m.MapIndex(key))
	}
	return out
}
