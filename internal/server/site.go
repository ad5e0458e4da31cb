package server

import (
	"context"
	"net/http"
	"slices"

	"dynacor/core/person"
	"dynacor/internal/app"
	"dynacor/internal/contract"
	"dynacor/internal/store"
	"dynacor/internal/views"
	"dynacor/internal/words"
)

// ChoosePin replaces one's own PIN.
func (s *Server) ChoosePin(ctx context.Context, r contract.ChoosePinRequestObject) (contract.ChoosePinResponseObject, error) {
	return contract.ChoosePin204Response{}, s.app.OwnPin(ctx, who(ctx), s.sessions.Token(ctx), r.Body.Old, r.Body.Pin)
}

// ChooseLocale keeps which language one reads.
func (s *Server) ChooseLocale(ctx context.Context, r contract.ChooseLocaleRequestObject) (contract.ChooseLocaleResponseObject, error) {
	return contract.ChooseLocale204Response{}, s.app.OwnLocale(ctx, who(ctx), string(r.Body.Locale))
}

// ChooseUnit keeps which unit one types torques in.
func (s *Server) ChooseUnit(ctx context.Context, r contract.ChooseUnitRequestObject) (contract.ChooseUnitResponseObject, error) {
	return contract.ChooseUnit204Response{}, s.app.OwnUnit(ctx, who(ctx), r.Body.TorqueUnit)
}

// GetSite shows the site to whoever keeps it.
func (s *Server) GetSite(ctx context.Context, _ contract.GetSiteRequestObject) (contract.GetSiteResponseObject, error) {
	r, err := s.app.SiteRoom(ctx)
	if err != nil {
		return nil, err
	}
	return contract.GetSite200JSONResponse{
		Site: contract.SiteWords{Name: r.Site.Name, Outage: r.Site.Outage, Begins: contract.Date{Time: r.Site.Begins}, Days: r.Site.Days,
			TorqueUnit: r.Site.TorqueUnit, SayWhy: r.Site.SayWhy, Shifts: views.Each(r.Site.Shifts, func(x store.Shift) contract.SiteShift {
				return contract.SiteShift{Name: x.Name, Begins: x.Begins}
			})},
		Outages: views.Each(r.Outages, func(o store.Outage) contract.SiteOutage {
			return contract.SiteOutage{Outage: o.Name, Begins: contract.Date{Time: o.Begins}, Days: o.Days}
		}),
		Terms: views.Each(app.OverruledBy(r.Site.Glossary), func(t app.Overruled) contract.OwnTerm {
			return contract.OwnTerm{Language: contract.Language(t.Language), Term: t.Term.Term, Is: t.Is, Own: t.Own}
		}),
		Roles: roleViews(person.Roles()), Areas: views.Each(r.Areas, areaView), People: views.Each(r.People, memberView),
		Log: views.Each(r.Log, func(e store.Logged) contract.SiteEntry {
			v := contract.SiteEntry{At: e.At, Kind: e.Kind, Subject: e.Subject, Words: e.Words}
			if e.By != nil {
				v.By = r.Names[*e.By]
			}
			return v
		})}, nil
}

func areaView(a store.Area) contract.SiteArea { return contract.SiteArea{ID: a.ID, Name: a.Name} }

func roleViews(list []string) []contract.Role {
	return views.Each(list, func(r string) contract.Role { return contract.Role(r) })
}

func memberView(m app.Member) contract.SitePerson {
	return contract.SitePerson{ID: m.ID, Login: m.Login, Name: m.Name, Initials: m.Initials, Roles: roleViews(m.Roles), Active: m.Active,
		Once: m.PinOnce, Sessions: m.Sessions, Locked: m.Locked,
		Qualifications: views.Each(slices.Sorted(slices.Values(m.Qualifications)), func(q string) contract.Qualification {
			return contract.Qualification{Name: q, Until: m.QualifiedUntil[q]}
		})}
}

// ChangeSite gives the site another name or outage.
func (s *Server) ChangeSite(ctx context.Context, r contract.ChangeSiteRequestObject) (contract.ChangeSiteResponseObject, error) {
	return contract.ChangeSite204Response{}, s.app.ChangeSite(ctx, who(ctx), app.Setup{Site: r.Body.Name, Outage: r.Body.Outage,
		Begins: r.Body.Begins.Time, Days: r.Body.Days, TorqueUnit: r.Body.TorqueUnit, SayWhy: r.Body.SayWhy,
		Shifts: views.Each(r.Body.Shifts, func(x contract.SiteShift) store.Shift { return store.Shift{Name: x.Name, Begins: x.Begins} })})
}

// GetTerms says what the site says in words of its own.
func (s *Server) GetTerms(ctx context.Context, r contract.GetTermsRequestObject) (contract.GetTermsResponseObject, error) {
	own, err := s.app.Spoken(ctx, string(r.Language))
	return contract.GetTerms200JSONResponse{Texts: own.Texts, Terms: views.Each(own.Terms, func(t words.Term) contract.Term {
		return contract.Term{Term: t.Term, Is: t.Is, Own: t.Own}
	})}, err
}

// GetGlossary writes the terms of the trade out.
func (s *Server) GetGlossary(ctx context.Context, _ contract.GetGlossaryRequestObject) (contract.GetGlossaryResponseObject, error) {
	b, err := s.app.Glossary(ctx)
	return file{name: "glossary.csv", kind: "text/csv; charset=utf-8", body: b}, err
}

func (f file) VisitGetGlossaryResponse(w http.ResponseWriter) error {
	return f.VisitGetRecordResponse(w)
}

// TakeGlossary takes the site's own words for its terms.
func (s *Server) TakeGlossary(ctx context.Context, r contract.TakeGlossaryRequestObject) (contract.TakeGlossaryResponseObject, error) {
	return contract.TakeGlossary204Response{}, s.app.TakeGlossary(ctx, who(ctx), []byte(r.Body.File))
}

// AddArea adds an area to the site.
func (s *Server) AddArea(ctx context.Context, r contract.AddAreaRequestObject) (contract.AddAreaResponseObject, error) {
	return contract.AddArea204Response{}, s.app.AddArea(ctx, who(ctx), r.Body.Name)
}

// RenameArea gives an area another name.
func (s *Server) RenameArea(ctx context.Context, r contract.RenameAreaRequestObject) (contract.RenameAreaResponseObject, error) {
	return contract.RenameArea204Response{}, s.app.RenameArea(ctx, who(ctx), r.Area, r.Body.Name)
}

// AddPerson enters somebody.
func (s *Server) AddPerson(ctx context.Context, r contract.AddPersonRequestObject) (contract.AddPersonResponseObject, error) {
	pin, err := s.app.AddPerson(ctx, who(ctx), person.Person{Login: r.Body.Login, Name: r.Body.Name, Initials: r.Body.Initials,
		Roles: roleNames(r.Body.Roles), Qualifications: r.Body.Qualifications})
	return contract.AddPerson200JSONResponse{PinAnswerJSONResponse: contract.PinAnswerJSONResponse{Pin: pin}}, err
}

func roleNames(list []contract.Role) []string {
	return views.Each(list, func(r contract.Role) string { return string(r) })
}

// ChangePerson changes what somebody may do.
func (s *Server) ChangePerson(ctx context.Context, r contract.ChangePersonRequestObject) (contract.ChangePersonResponseObject, error) {
	c := app.Changed{Name: r.Body.Name, Initials: r.Body.Initials, Active: r.Body.Active}
	if r.Body.Roles != nil {
		roles := roleNames(*r.Body.Roles)
		c.Roles = &roles
	}
	if r.Body.Qualifications != nil {
		until := map[string]string{}
		for _, q := range *r.Body.Qualifications {
			until[q.Name] = q.Until
		}
		c.Qualified = &until
	}
	return contract.ChangePerson204Response{}, s.app.ChangePerson(ctx, who(ctx), r.Person, c)
}

// GivePin gives somebody a PIN for one time.
func (s *Server) GivePin(ctx context.Context, r contract.GivePinRequestObject) (contract.GivePinResponseObject, error) {
	pin, err := s.app.NewPin(ctx, who(ctx), r.Person)
	return contract.GivePin200JSONResponse{PinAnswerJSONResponse: contract.PinAnswerJSONResponse{Pin: pin}}, err
}

// EndSessions signs somebody out everywhere.
func (s *Server) EndSessions(ctx context.Context, r contract.EndSessionsRequestObject) (contract.EndSessionsResponseObject, error) {
	return contract.EndSessions204Response{}, s.app.EndSessions(ctx, who(ctx), r.Person)
}

// LiftLockout lets somebody try their PIN again.
func (s *Server) LiftLockout(ctx context.Context, r contract.LiftLockoutRequestObject) (contract.LiftLockoutResponseObject, error) {
	return contract.LiftLockout204Response{}, s.app.Unlock(ctx, who(ctx), r.Person)
}

// GetSecurityLog shows the security log.
func (s *Server) GetSecurityLog(ctx context.Context, r contract.GetSecurityLogRequestObject) (contract.GetSecurityLogResponseObject,
	error) {
	list, names, err := s.app.SecurityLog(ctx, int64(r.Params.Before))
	if err != nil {
		return nil, err
	}
	return contract.GetSecurityLog200JSONResponse{Events: views.Each(list, func(e store.SecurityEvent) contract.SecurityEvent {
		v := contract.SecurityEvent{ID: int(e.ID), At: e.At, Kind: e.Kind, Login: e.Login, Address: e.Address, Words: e.Words}
		if e.Person != nil {
			v.By = names[e.Person.String()]
		}
		return v
	})}, nil
}

// GetSecurityFile writes the security log out as JSON lines.
func (s *Server) GetSecurityFile(ctx context.Context, _ contract.GetSecurityFileRequestObject) (contract.GetSecurityFileResponseObject,
	error) {
	s.app.Secure(ctx, app.Exported, who(ctx).ID, "", address(ctx), "security log")
	return lines{ctx, s.app}, nil
}

// lines is the security log on its way out.
type lines struct {
	ctx context.Context
	app *app.App
}

func (l lines) VisitGetSecurityFileResponse(w http.ResponseWriter) error {
	w.Header().Set("Content-Type", "application/x-ndjson")
	w.Header().Set("Content-Disposition", `attachment; filename="security.jsonl"`)
	return l.app.WriteSecurityLog(l.ctx, w)
}
