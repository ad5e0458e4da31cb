package form

import (
	"encoding/json"
	"time"

	"dynacor/core/friction"
	"dynacor/core/joint"
	"dynacor/core/loosen"
	"dynacor/core/preload"
	"dynacor/core/recipe"
	"dynacor/core/sequence"
	"dynacor/core/stay"
)

// How drafts and plans are stored: forms of their own, as for entries. What of a
// result is the recipe's own data is not stored with it: the plan names the
// edition, and editions never change.
type (
	givenForm struct {
		Value Quantity `json:"value"`
		Max   Quantity `json:"max,omitzero"`
	}
	inputForm struct {
		Recipe  string               `json:"recipe"`
		Edition int                  `json:"edition"`
		Type    string               `json:"type,omitzero"`
		Size    string               `json:"size,omitzero"`
		Choices map[string]string    `json:"choices,omitempty"`
		Values  map[string]givenForm `json:"values,omitempty"`
		Groups  map[string]boltsForm `json:"groups,omitempty"`
		MadeAt  time.Time            `json:"madeAt,omitzero"`
		Own     []Lubricant          `json:"own,omitempty"`
		Gaskets []OwnGasket          `json:"gaskets,omitempty"`
		Reasons map[string]string    `json:"reasons,omitempty"`
	}
	boltsForm struct {
		Count        int      `json:"count,omitzero"`
		Thread       string   `json:"thread,omitzero"`
		Grade        string   `json:"grade,omitzero"`
		SpecifiedFor string   `json:"specifiedFor,omitzero"`
		Lubrication  string   `json:"lubrication,omitzero"`
		Decision     string   `json:"decision,omitzero"`
		Aim          string   `json:"aim,omitzero"`
		Share        float64  `json:"share,omitzero"`
		ShareOf      string   `json:"shareOf,omitzero"`
		Base         string   `json:"base,omitzero"`
		Derate       float64  `json:"derate,omitzero"`
		Turn         Quantity `json:"turn,omitzero"`
		Stretch      Quantity `json:"stretch,omitzero"`
		Service      Quantity `json:"service,omitzero"`
		Prevailing   Quantity `json:"prevailing,omitzero"`
		Rows         int      `json:"rows,omitzero"`
		Across       Quantity `json:"across,omitzero"`
		Down         Quantity `json:"down,omitzero"`
		Stages       string   `json:"stages,omitzero"`
		Order        string   `json:"order,omitzero"`
		Start        int      `json:"start,omitzero"`
		OnCentre     bool     `json:"onCentre,omitzero"`
		Reason       string   `json:"reason,omitzero"`

		Certificate Certificate `json:"certificate,omitzero"`
		Gasket      string      `json:"gasket,omitzero"`
		Held        heldForm    `json:"held,omitzero"`
		Clamp       clampForm   `json:"clamp,omitzero"`
		Stay        stayForm    `json:"stay,omitzero"`

		Compared *comparedForm `json:"compared,omitempty"`
	}
	heldForm struct {
		Torque      Quantity `json:"torque,omitzero"`
		Prevailing  Quantity `json:"prevailing,omitzero"`
		Lubrication string   `json:"lubrication,omitzero"`
		Age         string   `json:"age,omitzero"`
	}
	breakoutForm struct {
		Low    float64 `json:"low"`
		Likely float64 `json:"likely"`
		High   float64 `json:"high"`
	}
	clampForm struct {
		Length  Quantity `json:"length,omitzero"`
		Shank   Quantity `json:"shank,omitzero"`
		TwoNuts bool     `json:"twoNuts,omitzero"`
		Parts   string   `json:"parts,omitzero"`
	}
	stayForm struct {
		Engaged     Quantity `json:"engaged,omitzero"`
		PartTensile Quantity `json:"partTensile,omitzero"`
		Bears       Quantity `json:"bears,omitzero"`
		Finish      string   `json:"finish,omitzero"`
		Faces       int      `json:"faces,omitzero"`
		Settles     float64  `json:"settles,omitzero"`
		BoltsWarmer float64  `json:"boltsWarmer,omitzero"`
		PartsWarmer float64  `json:"partsWarmer,omitzero"`
		BoltsStiff  float64  `json:"boltsStiff,omitzero"`
		PartsStiff  float64  `json:"partsStiff,omitzero"`
		Axial       Quantity `json:"axial,omitzero"`
		Enters      float64  `json:"enters,omitzero"`
		Across      Quantity `json:"across,omitzero"`
		Friction    float64  `json:"friction,omitzero"`
		Planes      int      `json:"planes,omitzero"`
	}
	// Certificate is what a certificate says of bolts.
	Certificate struct {
		Number  string   `json:"number"`
		Proof   Quantity `json:"proof,omitzero"`
		Yield   Quantity `json:"yield"`
		Tensile Quantity `json:"tensile"`
	}
	// Lubricant is one with its friction, or its nut factors.
	Lubricant struct {
		Name    string  `json:"name"`
		Short   string  `json:"short,omitzero"`
		Low     float64 `json:"low"`
		Nominal float64 `json:"nominal"`
		High    float64 `json:"high"`
		Dry     bool    `json:"dry,omitzero"`
		Origin  string  `json:"origin,omitzero"`
		Source  string  `json:"source,omitzero"`
	}
	// OwnGasket is a gasket of the site's own.
	OwnGasket struct {
		Name    string  `json:"name"`
		Family  string  `json:"family"`
		Source  string  `json:"source"`
		Aim     float64 `json:"aim,omitzero"`
		Seat    float64 `json:"seat,omitzero"`
		Service float64 `json:"service,omitzero"`
		Most    float64 `json:"most,omitzero"`
		Kept    float64 `json:"kept,omitzero"`
	}
	resultForm struct {
		Values     []valueForm `json:"values,omitempty"`
		Groups     []groupForm `json:"groups,omitempty"`
		Minds      []mindForm  `json:"minds,omitempty"`
		Deviations []string    `json:"deviations,omitempty"`
	}
	valueForm struct {
		Need  string    `json:"need"`
		Given givenForm `json:"given,omitzero"`
		Sheet givenForm `json:"sheet,omitzero"`
		Usual givenForm `json:"usual,omitzero"`
		Hand  bool      `json:"hand,omitzero"`

		Worked string `json:"worked,omitzero"`
	}
	mindForm struct {
		Group string `json:"group,omitzero"`
		Text  string `json:"text"`
		Offer string `json:"offer,omitzero"`
		Take  string `json:"take,omitzero"`
	}
	checkForm struct {
		Name   string  `json:"name"`
		Value  float64 `json:"value"`
		Limit  float64 `json:"limit"`
		Unit   string  `json:"unit,omitzero"`
		Margin float64 `json:"margin"`
		Holds  bool    `json:"holds"`

		Least   bool    `json:"least,omitzero"`
		Informs bool    `json:"informs,omitzero"`
		Key     string  `json:"key,omitzero"`
		Note    string  `json:"note,omitzero"`
		Stress  float64 `json:"stress,omitzero"`
	}
	groupForm struct {
		Name         string       `json:"name"`
		Count        int          `json:"count"`
		Thread       string       `json:"thread,omitzero"`
		AcrossFlats  float64      `json:"acrossFlats,omitzero"`
		Grade        string       `json:"grade,omitzero"`
		SpecifiedFor string       `json:"specifiedFor,omitzero"`
		Lubrication  string       `json:"lubrication,omitzero"`
		Short        string       `json:"short,omitzero"`
		IsDry        bool         `json:"isDry,omitzero"`
		OnCentre     bool         `json:"onCentre,omitzero"`
		Start        int          `json:"start,omitzero"`
		Rows         int          `json:"rows,omitzero"`
		Cols         int          `json:"cols,omitzero"`
		Across       float64      `json:"across,omitzero"`
		Down         float64      `json:"down,omitzero"`
		Diameter     float64      `json:"diameter,omitzero"`
		GasketOuter  float64      `json:"gasketOuter,omitzero"`
		GasketInner  float64      `json:"gasketInner,omitzero"`
		Torque       float64      `json:"torque,omitzero"`
		TorqueMin    float64      `json:"torqueMin,omitzero"`
		TorqueMax    float64      `json:"torqueMax,omitzero"`
		Equivalent   float64      `json:"equivalent,omitzero"`
		Aim          string       `json:"aim,omitzero"`
		Share        float64      `json:"share,omitzero"`
		ShareOf      string       `json:"shareOf,omitzero"`
		Base         string       `json:"base,omitzero"`
		Derate       float64      `json:"derate,omitzero"`
		Breakout     breakoutForm `json:"breakout,omitzero"`
		GivesBolt    float64      `json:"givesBolt,omitzero"`
		GivesParts   float64      `json:"givesParts,omitzero"`
		FromSnug     float64      `json:"fromSnug,omitzero"`
		Stretch      float64      `json:"stretch,omitzero"`
		Prevailing   float64      `json:"prevailing,omitzero"`
		Load         float64      `json:"load,omitzero"`
		K            Lubricant    `json:"k,omitzero"`
		Coefficient  float64      `json:"coefficient,omitzero"`
		Accuracy     float64      `json:"accuracy,omitzero"`
		LikelyLow    float64      `json:"likelyLow,omitzero"`
		LikelyHigh   float64      `json:"likelyHigh,omitzero"`
		WorstLow     float64      `json:"worstLow,omitzero"`
		WorstHigh    float64      `json:"worstHigh,omitzero"`
		Needed       float64      `json:"needed,omitzero"`
		Limit        float64      `json:"limit,omitzero"`
		Utilisation  float64      `json:"utilisation,omitzero"`
		Checks       []checkForm  `json:"checks,omitempty"`
		Window       []checkForm  `json:"window,omitempty"`
		Stays        []checkForm  `json:"stays,omitempty"`
		Stages       []float64    `json:"stages,omitempty"`
		Torques      []float64    `json:"torques,omitempty"`
		Strokes      []float64    `json:"strokes,omitempty"`
		Drawn        drawnForm    `json:"drawn,omitzero"`
		Pattern      string       `json:"pattern,omitzero"`
		Order        []int        `json:"order,omitempty"`
		Rounds       []int        `json:"rounds,omitempty"`
	}
	drawnForm struct {
		Load    float64 `json:"load"`
		Length  float64 `json:"length"`
		Lost    float64 `json:"lost,omitzero"`
		Halves  bool    `json:"halves,omitzero"`
		Yield   float64 `json:"yield"`
		Modulus float64 `json:"modulus"`
	}
)

func givenOf(g joint.Given) givenForm { return givenForm{QuantityOf(g.Value), QuantityOf(g.Max)} }

func (f givenForm) given() joint.Given {
	return joint.Given{Value: f.Value.Quantity(), Max: f.Max.Quantity()}
}

// LubricantOf is how l is written.
func LubricantOf(l friction.Lubricant) Lubricant {
	return Lubricant{l.Name, l.Short, l.Low, l.Nominal, l.High, l.Dry, string(l.Origin), l.Source}
}

// Lubricant is what was written.
func (f Lubricant) Lubricant() friction.Lubricant {
	return friction.Lubricant{Name: f.Name, Short: f.Short, Low: f.Low, Nominal: f.Nominal, High: f.High, Dry: f.Dry,
		Origin: friction.Origin(f.Origin), Source: f.Source}
}

// WriteInput writes what is known of a joint.
func WriteInput(in joint.Input) (string, error) {
	f := inputForm{Recipe: in.Recipe, Edition: in.Edition, Type: in.Type, Size: in.Size, Choices: in.Choices,
		Values: map[string]givenForm{}, Groups: map[string]boltsForm{}, MadeAt: in.MadeAt, Reasons: in.Reasons}
	for name, g := range in.Values {
		f.Values[name] = givenOf(g)
	}
	for name, b := range in.Groups {
		f.Groups[name] = boltsOf(b)
	}
	for _, l := range in.Own {
		f.Own = append(f.Own, LubricantOf(l))
	}
	for _, g := range in.Gaskets {
		f.Gaskets = append(f.Gaskets, OwnGasket(g))
	}
	b, err := json.Marshal(f)
	return string(b), err
}

// ReadInput reads what WriteInput wrote.
func ReadInput(body string) (joint.Input, error) {
	var f inputForm
	if err := json.Unmarshal([]byte(body), &f); err != nil {
		return joint.Input{}, err
	}
	in := joint.Input{Recipe: f.Recipe, Edition: f.Edition, Type: f.Type, Size: f.Size, Choices: f.Choices,
		Values: map[string]joint.Given{}, Groups: map[string]joint.Bolts{}, MadeAt: f.MadeAt, Reasons: f.Reasons}
	for name, g := range f.Values {
		in.Values[name] = g.given()
	}
	for name, b := range f.Groups {
		in.Groups[name] = b.bolts()
	}
	for _, l := range f.Own {
		in.Own = append(in.Own, l.Lubricant())
	}
	for _, g := range f.Gaskets {
		in.Gaskets = append(in.Gaskets, preload.OwnGasket(g))
	}
	return in, nil
}

func boltsOf(b joint.Bolts) boltsForm {
	c, s := b.Clamp, b.Stay
	return boltsForm{Count: b.Count, Thread: b.Thread, Grade: b.Grade, SpecifiedFor: b.SpecifiedFor, Lubrication: b.Lubrication,
		Decision: string(b.Decision), Aim: string(b.Aim), Share: b.Share, ShareOf: string(b.ShareOf), Base: b.Base, Derate: b.Derate,
		Turn: QuantityOf(b.Turn), Stretch: QuantityOf(b.Stretch), Service: QuantityOf(b.Service), Prevailing: QuantityOf(b.Prevailing),
		Rows:   b.Rows,
		Across: QuantityOf(b.Across), Down: QuantityOf(b.Down), Stages: b.Stages, Order: string(b.Order), Start: b.Start,
		OnCentre: b.OnCentre, Reason: b.Reason,
		Certificate: Certificate{b.Certificate.Number, QuantityOf(b.Certificate.Proof), QuantityOf(b.Certificate.Yield),
			QuantityOf(b.Certificate.Tensile)},
		Gasket: b.Gasket, Held: heldForm{QuantityOf(b.Held.Torque), QuantityOf(b.Held.Prevailing), b.Held.Lubrication, string(b.Held.Age)},
		Clamp: clampForm{QuantityOf(c.Length), QuantityOf(c.Shank), c.TwoNuts, c.Parts},
		Stay: stayForm{QuantityOf(s.Engaged), QuantityOf(s.PartTensile), QuantityOf(s.Bears), string(s.Finish), s.Faces, s.Settles,
			s.BoltsWarmer, s.PartsWarmer, s.BoltsStiff, s.PartsStiff, QuantityOf(s.Axial), s.Enters, QuantityOf(s.Across), s.Friction,
			s.Planes}, Compared: comparedOf(b.Compared)}
}

func (b boltsForm) bolts() joint.Bolts {
	c, s := b.Clamp, b.Stay
	return joint.Bolts{Count: b.Count, Thread: b.Thread, Grade: b.Grade, SpecifiedFor: b.SpecifiedFor, Lubrication: b.Lubrication,
		Decision: joint.Decision(b.Decision), Aim: joint.Aim(b.Aim), Share: b.Share, ShareOf: joint.Basis(b.ShareOf), Base: b.Base,
		Derate: b.Derate, Turn: b.Turn.Quantity(), Stretch: b.Stretch.Quantity(), Service: b.Service.Quantity(),
		Prevailing: b.Prevailing.Quantity(), Rows: b.Rows,
		Across: b.Across.Quantity(), Down: b.Down.Quantity(), Stages: b.Stages, Order: sequence.Pattern(b.Order), Start: b.Start,
		OnCentre: b.OnCentre, Reason: b.Reason,
		Certificate: joint.Certificate{Number: b.Certificate.Number, Proof: b.Certificate.Proof.Quantity(),
			Yield: b.Certificate.Yield.Quantity(), Tensile: b.Certificate.Tensile.Quantity()},
		Gasket: b.Gasket, Held: joint.Held{Torque: b.Held.Torque.Quantity(), Prevailing: b.Held.Prevailing.Quantity(),
			Lubrication: b.Held.Lubrication, Age: loosen.Age(b.Held.Age)},
		Clamp: joint.Clamp{Length: c.Length.Quantity(), Shank: c.Shank.Quantity(), TwoNuts: c.TwoNuts, Parts: c.Parts},
		Stay: joint.Stay{Engaged: s.Engaged.Quantity(), PartTensile: s.PartTensile.Quantity(), Bears: s.Bears.Quantity(),
			Finish: stay.Finish(s.Finish), Faces: s.Faces, Settles: s.Settles, BoltsWarmer: s.BoltsWarmer, PartsWarmer: s.PartsWarmer,
			BoltsStiff: s.BoltsStiff, PartsStiff: s.PartsStiff,
			Axial: s.Axial.Quantity(), Enters: s.Enters, Across: s.Across.Quantity(), Friction: s.Friction, Planes: s.Planes},
		Compared: b.Compared.kept()}
}

func checksOf(list []preload.Check) []checkForm {
	var out []checkForm
	for _, c := range list {
		out = append(out, checkForm(c))
	}
	return out
}

func checks(list []checkForm) []preload.Check {
	var out []preload.Check
	for _, c := range list {
		out = append(out, preload.Check(c))
	}
	return out
}

// WriteResult writes what a joint came to.
func WriteResult(r joint.Result) (string, error) {
	f := resultForm{Deviations: r.Deviations}
	for _, v := range r.Values {
		f.Values = append(f.Values, valueForm{v.Need.Name, givenOf(v.Given), givenOf(v.Sheet), givenOf(v.Usual), v.Hand, v.Worked})
	}
	for _, m := range r.Minds {
		f.Minds = append(f.Minds, mindForm{m.Group, m.Text, m.Offer, string(m.Take)})
	}
	for _, g := range r.Groups {
		f.Groups = append(f.Groups, groupOf(g))
	}
	b, err := json.Marshal(f)
	return string(b), err
}

func groupOf(g joint.Group) groupForm {
	return groupForm{Name: g.Name, Count: g.Count, Thread: g.Thread, AcrossFlats: g.AcrossFlats, Grade: g.Grade,
		SpecifiedFor: g.SpecifiedFor,
		Lubrication:  g.Lubrication, Short: g.Short, IsDry: g.IsDry, OnCentre: g.OnCentre, Start: g.Start, Rows: g.Lie.Rows,
		Cols: g.Lie.Cols, Across: g.Lie.Across, Down: g.Lie.Down, Diameter: g.Diameter, GasketOuter: g.GasketOuter,
		GasketInner: g.GasketInner, Torque: g.Torque, TorqueMin: g.TorqueMin, TorqueMax: g.TorqueMax, Equivalent: g.Equivalent,
		Share: g.Share, ShareOf: string(g.ShareOf), Prevailing: g.Prevailing, Load: g.Load, K: LubricantOf(g.K), Coefficient: g.Coefficient,
		Accuracy: g.Accuracy, LikelyLow: g.LikelyLow, LikelyHigh: g.LikelyHigh, WorstLow: g.WorstLow, WorstHigh: g.WorstHigh,
		Needed: g.Needed, Limit: g.Limit, Utilisation: g.Utilisation, Stages: g.Stages, Torques: g.Torques, Strokes: g.Strokes,
		Drawn: drawnForm(g.Drawn), Pattern: string(g.Pattern), Order: g.Order, Rounds: g.Rounds, Aim: string(g.Aim), Base: g.Base,
		Derate:   g.Derate,
		Breakout: breakoutForm(g.Breakout), GivesBolt: g.Springs.Bolt, GivesParts: g.Springs.Parts,
		FromSnug: g.FromSnug, Stretch: g.Stretch, Checks: checksOf(g.Checks),
		Window: checksOf(g.Window), Stays: checksOf(g.Stays)}
}

// ReadResult reads what WriteResult wrote; what of it is the recipe’s own is not in it.
func ReadResult(body string) (joint.Result, error) {
	var f resultForm
	if err := json.Unmarshal([]byte(body), &f); err != nil {
		return joint.Result{}, err
	}
	r := joint.Result{Deviations: f.Deviations}
	for _, v := range f.Values {
		r.Values = append(r.Values, joint.Value{Need: recipe.Need{Name: v.Need}, Given: v.Given.given(), Sheet: v.Sheet.given(),
			Usual: v.Usual.given(), Hand: v.Hand, Worked: v.Worked})
	}
	for _, m := range f.Minds {
		r.Minds = append(r.Minds, joint.Mind{Group: m.Group, Text: m.Text, Offer: m.Offer, Take: joint.Decision(m.Take)})
	}
	for _, g := range f.Groups {
		r.Groups = append(r.Groups, g.group())
	}
	return r, nil
}

func (f groupForm) group() joint.Group {
	return joint.Group{Group: recipe.Group{Name: f.Name}, Count: f.Count, Thread: f.Thread, AcrossFlats: f.AcrossFlats, Grade: f.Grade,
		SpecifiedFor: f.SpecifiedFor, Lubrication: f.Lubrication, Short: f.Short, IsDry: f.IsDry, OnCentre: f.OnCentre, Start: f.Start,
		Lie: recipe.Grid{Rows: f.Rows, Cols: f.Cols, Across: f.Across, Down: f.Down}, Diameter: f.Diameter, GasketOuter: f.GasketOuter,
		GasketInner: f.GasketInner, Torque: f.Torque, TorqueMin: f.TorqueMin, TorqueMax: f.TorqueMax, Equivalent: f.Equivalent,
		Share: f.Share, ShareOf: joint.Basis(f.ShareOf), Prevailing: f.Prevailing, Load: f.Load, K: f.K.Lubricant(),
		Coefficient: f.Coefficient, Accuracy: f.Accuracy, LikelyLow: f.LikelyLow, LikelyHigh: f.LikelyHigh, WorstLow: f.WorstLow,
		WorstHigh: f.WorstHigh, Needed: f.Needed, Limit: f.Limit, Utilisation: f.Utilisation, Stages: f.Stages, Torques: f.Torques,
		Strokes: f.Strokes, Drawn: joint.Drawn(f.Drawn), Pattern: sequence.Pattern(f.Pattern), Order: f.Order, Rounds: f.Rounds,
		Aim: joint.Aim(f.Aim), Base: f.Base, Derate: f.Derate, Breakout: loosen.Breakout(f.Breakout),
		Springs:  preload.Compliance{Bolt: f.GivesBolt, Parts: f.GivesParts},
		FromSnug: f.FromSnug, Stretch: f.Stretch,
		Checks: checks(f.Checks), Window: checks(f.Window), Stays: checks(f.Stays)}
}
