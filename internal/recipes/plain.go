package recipes

import (
	"fmt"

	"github.com/goccy/go-yaml/lexer"
	"github.com/goccy/go-yaml/token"

	"dynacor/core/refusal"
)

// What a recipe needs of YAML, and to spare: deeper, longer or cleverer files take the
// reader minutes, and are none.
const (
	mostWords = 60_000 // tokens: the largest that ships has a tenth
	deepest   = 20     // of brackets in one another, and of entries that begin on one line
	farthest  = 80     // columns that a line may be drawn in
)

// simple refuses a file that uses what no recipe does: anchors and aliases, tags, and
// nesting without end. It looks at the words alone, so that nothing is built of them.
func simple(file []byte) error {
	words := lexer.Tokenize(string(file))
	if len(words) > mostWords {
		return refusal.Number(refusal.TooLarge, "file", float64(len(words)), mostWords, "words",
			fmt.Sprintf("The file has %d words; at most %d are read.", len(words), mostWords), "Is it a recipe?")
	}
	flow, begun, line := 0, 0, 0
	for _, w := range words {
		if w.Position.Line != line {
			line, begun = w.Position.Line, 0
		}
		switch w.Type {
		case token.AnchorType, token.AliasType, token.MergeKeyType, token.TagType:
			return refusal.New(refusal.Contradicts, "file", fmt.Sprintf("Line %d: a recipe has no anchors, aliases or tags: %s.", line,
				w.Value),
				"Write it out.")
		case token.SequenceStartType, token.MappingStartType:
			flow++
		case token.SequenceEndType, token.MappingEndType:
			flow--
		case token.SequenceEntryType, token.MappingKeyType, token.MappingValueType:
			if flow == 0 {
				begun++
			}
		}
		drawn := flow == 0 && w.Type != token.CommentType && w.Prev != nil && w.Prev.Position.Line != line && w.Position.Column > farthest
		if flow > deepest || begun > deepest || drawn {
			return refusal.Number(refusal.TooLarge, "file", float64(max(flow, begun)), deepest, "levels",
				fmt.Sprintf("Line %d: so many things in one another are in no recipe.", line), "Write it flatter.")
		}
	}
	return nil
}
