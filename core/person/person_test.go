package person_test

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/require"

	"dynacor/core/person"
	"dynacor/core/refusal"
)

func TestWhoCanBeEntered(t *testing.T) {
	p := person.Person{Login: " Ada ", Name: " Ada   Quillfeather ", Roles: []string{"fitter", "fitter", " engineer"}}.Tidy()
	require.Equal(t, person.Person{Login: "ada", Name: "Ada Quillfeather", Initials: "A. Q.", Roles: []string{"fitter", "engineer"},
		Qualifications: []string{}}, p)
	require.NoError(t, p.Check())
	for field, change := range map[string]func(p *person.Person){
		"login":          func(p *person.Person) { p.Login = "ada q" },
		"name":           func(p *person.Person) { p.Name = "" },
		"roles":          func(p *person.Person) { p.Roles = []string{"king"} },
		"qualifications": func(p *person.Person) { p.Qualifications = []string{strings.Repeat("x", 41)} },
		"initials":       func(p *person.Person) { p.Initials = strings.Repeat("x", 41) },
	} {
		wrong := p
		change(&wrong)
		var e *refusal.Error
		require.ErrorAs(t, wrong.Check(), &e, field)
		require.Equal(t, field, e.Field)
	}
	none := p
	none.Roles = nil
	require.ErrorIs(t, none.Check(), &refusal.Error{Code: refusal.Missing, Field: "roles"})
}

func TestWhatAPinMustBe(t *testing.T) {
	fitter, engineer := []string{person.Fitter}, []string{person.Fitter, person.Engineer}
	for _, pin := range []string{"4711", "2580", "grün7", "1357"} {
		require.NoError(t, person.CheckPin(pin, "marta", fitter), pin)
	}
	for _, pin := range []string{"1111", "1234", "9876", "471", "", "Marta"} {
		require.Error(t, person.CheckPin(pin, "marta", fitter), pin)
	}
	require.ErrorIs(t, person.CheckPin("47113", "edda", engineer), &refusal.Error{Code: refusal.TooSmall, Field: "pin"})
	require.NoError(t, person.CheckPin("471134", "edda", engineer))
	require.ErrorIs(t, person.CheckPin(strings.Repeat("ab", 31), "edda", engineer), &refusal.Error{Code: refusal.TooLarge})
	require.Equal(t, 6, person.LeastPin([]string{person.Administrator}))
	require.Equal(t, 4, person.LeastPin([]string{person.CribKeeper, person.Planner, person.Inspector}))
}

func FuzzCheckPin(f *testing.F) {
	f.Add("4711", "marta")
	f.Add("", "")
	f.Add("\xff\xfe", "a")
	f.Fuzz(func(t *testing.T, pin, login string) {
		if person.CheckPin(pin, login, []string{person.Fitter}) == nil && len([]rune(pin)) < 4 {
			t.Fatalf("%q was taken", pin)
		}
	})
}

func TestPausesGrow(t *testing.T) {
	for wrong, minutes := range map[int]float64{0: 0, 4: 0, 5: 1, 6: 2, 7: 4, 8: 8, 9: 15, 500: 15} {
		require.InDelta(t, minutes, person.Pause(wrong).Minutes(), 0, "%d wrong", wrong)
	}
	for wrong, minutes := range map[int]float64{0: 0, 49: 0, 50: 1, 54: 1, 55: 2, 1000: 15} {
		require.InDelta(t, minutes, person.PauseHere(wrong).Minutes(), 0, "%d wrong from one address", wrong)
	}
}

func TestWhoLacksADrill(t *testing.T) {
	asked := []string{"read it", "set it"}
	require.Equal(t, asked, person.Lacks([]string{"lifting gear", "read it"}, asked), "a name is no drill that was passed")
	require.Equal(t, []string{"set it"}, person.Lacks([]string{person.ByDrill("read it"), person.ByDrill("convert it")}, asked))
	require.Empty(t, person.Lacks(nil, nil))
}
