package recipes

import (
	"reflect"
	"strings"

	"dynacor/core/kind"
	"dynacor/core/proof"
	"dynacor/core/reading"
	"dynacor/core/recipe"
	"dynacor/core/sequence"
	"dynacor/core/thread"
	"dynacor/core/unit"
)

// Schema returns the JSON Schema (draft 2020-12) of a recipe file, for editors
// that check while one types. It is made from recipe.Recipe, so it cannot lag
// behind; what only the whole recipe shows (a group that no step makes, a proof
// that is missing) Read finds.
func Schema() map[string]any {
	s := schemaOf(reflect.TypeFor[recipe.Recipe]())
	s["$schema"] = "https://json-schema.org/draft/2020-12/schema"
	s["title"] = "Dynacor recipe"
	fields := s["properties"].(map[string]any)
	fields["kind"] = enum(names(kind.All(), func(k kind.Kind) string { return k.Name }))
	step := fields["steps"].(map[string]any)["items"].(map[string]any)["properties"].(map[string]any)
	step["proves"] = enum(texts(proof.Requirements()))
	return s
}

// wanted are the fields that each part of a file must have.
var wanted = map[reflect.Type][]string{
	reflect.TypeFor[recipe.Recipe]():     {"id", "title", "kind", "edition", "steps"},
	reflect.TypeFor[recipe.Choice]():     {"name", "text", "options"},
	reflect.TypeFor[recipe.Need]():       {"name", "text"},
	reflect.TypeFor[recipe.Rule]():       {"name", "group"},
	reflect.TypeFor[recipe.Part]():       {"name"},
	reflect.TypeFor[recipe.Group]():      {"name", "layout", "how"},
	reflect.TypeFor[recipe.Step]():       {"id", "does", "station", "text"},
	reflect.TypeFor[recipe.Caution]():    {"kind", "text"},
	reflect.TypeFor[recipe.Sheet]():      {"title", "rows"},
	reflect.TypeFor[recipe.Row]():        {"type", "size"},
	reflect.TypeFor[recipe.Axis]():       {"first", "last"},
	reflect.TypeFor[recipe.Comparison](): {"of"},
	reflect.TypeFor[recipe.Repeat]():     {"name", "first", "last"},
	reflect.TypeFor[recipe.Thing]():      {"text"},
}

// listed are the types whose values are words of a list.
var listed = map[reflect.Type][]string{
	reflect.TypeFor[recipe.Drawing]():     texts(recipe.Drawings()),
	reflect.TypeFor[recipe.Layout]():      texts(recipe.Layouts()),
	reflect.TypeFor[recipe.How]():         texts(recipe.Hows()),
	reflect.TypeFor[recipe.Does]():        texts(recipe.Kinds()),
	reflect.TypeFor[recipe.Station]():     texts(recipe.Stations()),
	reflect.TypeFor[recipe.Some]():        texts(recipe.Somes()),
	reflect.TypeFor[recipe.CautionKind](): texts(recipe.CautionKinds()),
	reflect.TypeFor[recipe.RuleName]():    texts(recipe.RuleNames()),
	reflect.TypeFor[recipe.Family]():      texts(recipe.Families()),
	reflect.TypeFor[recipe.Until]():       texts(recipe.Untils()),
	reflect.TypeFor[recipe.With]():        texts(recipe.Withs()[1:]),
	reflect.TypeFor[recipe.Shows]():       texts(recipe.ShowsAll()),
	reflect.TypeFor[reading.Form]():       texts(reading.Forms()),
	reflect.TypeFor[thread.Head]():        texts(thread.Heads()),
	reflect.TypeFor[unit.Unit]():          texts(unit.Units()),
	reflect.TypeFor[sequence.Pattern]():   texts(append(sequence.Patterns(), sequence.Alternating, sequence.CentreOut)),
}

func schemaOf(t reflect.Type) map[string]any {
	if words, ok := listed[t]; ok {
		return enum(words)
	}
	switch t.Kind() {
	case reflect.Pointer:
		return schemaOf(t.Elem())
	case reflect.Slice:
		return map[string]any{"type": "array", "items": schemaOf(t.Elem())}
	case reflect.Map:
		return map[string]any{"type": "object", "additionalProperties": schemaOf(t.Elem())}
	case reflect.Struct:
		return structure(t)
	case reflect.Bool:
		return map[string]any{"type": "boolean"}
	case reflect.Int:
		return map[string]any{"type": "integer"}
	case reflect.Float64:
		return map[string]any{"type": "number"}
	}
	return map[string]any{"type": "string"}
}

func structure(t reflect.Type) map[string]any {
	fields := map[string]any{}
	for f := range t.Fields() {
		fields[strings.ToLower(f.Name)] = schemaOf(f.Type)
	}
	s := map[string]any{"type": "object", "properties": fields, "additionalProperties": false}
	if must := wanted[t]; len(must) > 0 {
		s["required"] = must
	}
	return s
}

func enum(words []string) map[string]any { return map[string]any{"type": "string", "enum": words} }

func texts[T ~string](list []T) []string { return names(list, func(v T) string { return string(v) }) }

func names[T any](list []T, name func(T) string) []string {
	out := make([]string, len(list))
	for i, v := range list {
		out[i] = name(v)
	}
	return out
}
