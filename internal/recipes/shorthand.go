package recipes

import (
	"github.com/goccy/go-yaml/ast"
	"github.com/goccy/go-yaml/token"

	"dynacor/core/recipe"
)

// spellOut writes out in full what a file may say with a text alone: a caution, which is a
// danger then; a line of a list; a mark that is compared, by what it is read on; one of a kit.
// The tree is changed before it is read: a decoder's own hook for such a type writes its node
// anew, and with it the file, each time.
func spellOut(root ast.Node) {
	for _, step := range list(field(root, "steps")) {
		eachText(field(step, "cautions"), func(n ast.Node) ast.Node {
			return mapping(n, entry(n, "kind", text(n, string(recipe.Danger))), entry(n, "text", n))
		})
		eachText(field(step, "ticks"), func(n ast.Node) ast.Node { return mapping(n, entry(n, "text", n)) })
		eachText(field(step, "marks"), func(n ast.Node) ast.Node { return mapping(n, entry(n, "of", n)) })
	}
	kit := field(root, "kit")
	for _, of := range []string{"tools", "materials", "wear"} {
		eachText(field(kit, of), func(n ast.Node) ast.Node { return mapping(n, entry(n, "text", n)) })
	}
}

// field is what a mapping has under a name; nil where it is none, or has none.
func field(n ast.Node, name string) ast.Node {
	switch n := n.(type) {
	case *ast.MappingNode:
		for _, v := range n.Values {
			if v.Key.GetToken().Value == name {
				return v.Value
			}
		}
	case *ast.MappingValueNode:
		if n.Key.GetToken().Value == name {
			return n.Value
		}
	}
	return nil
}

// list is what a sequence holds.
func list(n ast.Node) []ast.Node {
	if s, ok := n.(*ast.SequenceNode); ok {
		return s.Values
	}
	return nil
}

// eachText replaces those of a sequence that are a text alone.
func eachText(n ast.Node, by func(ast.Node) ast.Node) {
	values := list(n)
	for i, v := range values {
		if _, scalar := v.(ast.ScalarNode); scalar {
			values[i] = by(v)
		}
	}
}

func mapping(at ast.Node, values ...*ast.MappingValueNode) ast.Node {
	return ast.Mapping(at.GetToken(), true, values...)
}

func entry(at ast.Node, key string, value ast.Node) *ast.MappingValueNode {
	return ast.MappingValue(at.GetToken(), text(at, key), value)
}

// text is a text that stands where a node does.
func text(at ast.Node, s string) *ast.StringNode {
	return ast.String(token.New(s, s, at.GetToken().Position))
}
