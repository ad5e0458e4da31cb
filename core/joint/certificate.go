package joint

import (
	"fmt"
	"strings"

	"dynacor/core/refusal"
	"dynacor/core/thread"
	"dynacor/core/unit"
)

// ByCertificate is the grade of bolts whose strength is taken from their paper.
const ByCertificate = "by certificate"

// Certificate is what the paper of a lot of bolts says, stresses as they are typed.
// Proof is empty where it gives none.
type Certificate struct {
	Number                string
	Proof, Yield, Tensile unit.Quantity
}

// Check refuses a certificate without a number, and values that contradict one another.
func (x Certificate) Check() error {
	_, _, err := x.strength()
	return err
}

// Beyond this no bolt is strong, MPa.
const mostTensile = 3000

// strength returns the certificate's values, MPa, and what it is called on screen
// and record. It refuses one without a number, and values that contradict one another.
func (x Certificate) strength() (s thread.Strength, name string, err error) {
	number := strings.TrimSpace(x.Number)
	if number == "" {
		return s, "", refusal.New(refusal.Missing, "number", "The certificate has no number.", "Type it from the paper.")
	}
	for _, v := range []struct {
		field string
		from  unit.Quantity
		to    *float64
	}{{"proof", x.Proof, &s.Proof}, {"yield", x.Yield, &s.Yield}, {"tensile", x.Tensile, &s.Tensile}} {
		if v.field == "proof" && v.from.IsZero() {
			continue
		}
		if *v.to, err = v.from.In(unit.Megapascal); err != nil {
			return s, "", refusal.At(v.field, err)
		}
		if err := refusal.Within(v.field, *v.to, mostTensile, string(unit.Megapascal)); err != nil {
			return s, "", err
		}
	}
	if s.Yield > s.Tensile {
		return s, "", refusal.Number(refusal.Contradicts, "yield", s.Yield, s.Tensile, "MPa",
			fmt.Sprintf("A yield of %.4g MPa is above the tensile strength, %.4g MPa.", s.Yield, s.Tensile),
			"Read both off the paper again.")
	}
	if s.Proof > s.Yield {
		return s, "", refusal.Number(refusal.Contradicts, "proof", s.Proof, s.Yield, "MPa",
			fmt.Sprintf("A proof stress of %.4g MPa is above the yield, %.4g MPa.", s.Proof, s.Yield), "Read both off the paper again.")
	}
	return s, fmt.Sprintf("certificate %s, %.4g/%.4g MPa", number, s.Yield, s.Tensile), nil
}

// strength returns what bolts of a group on t bear: as published for their grade,
// or as their certificate says. It gives the group the name of that. It is looked up
// once, as several steps ask for it.
func (c *computing) strength(g *Group, t thread.Thread) (s thread.Strength, err error) {
	if c.strongOf == g.Name {
		return c.strong, nil
	}
	b, of := c.in.Groups[g.Name], g.Name
	if b.Grade == "" && g.Of != "" {
		b, of = c.in.Groups[g.Of], g.Of
	}
	name := g.Grade
	if b.Grade == ByCertificate {
		s, name, err = b.Certificate.strength()
	} else {
		s, err = thread.StrengthOf(name, t.Diameter)
	}
	if err != nil {
		return s, refusal.At("groups."+of+".grade", err)
	}
	g.Grade, c.strongOf, c.strong = name, g.Name, s
	return s, nil
}
