package server

import (
	"context"
	"net/http"

	"github.com/google/uuid"

	"dynacor/internal/app"
	"dynacor/internal/contract"
	"dynacor/internal/store"
	"dynacor/internal/views"
)

// ListPapers lists the makers' sheets that hang somewhere.
func (s *Server) ListPapers(ctx context.Context, r contract.ListPapersRequestObject) (contract.ListPapersResponseObject, error) {
	var joint *uuid.UUID
	if r.Params.Joint != (uuid.UUID{}) {
		joint = &r.Params.Joint
	}
	list, err := s.app.PapersAt(ctx, joint, r.Params.Recipe)
	if err != nil {
		return nil, err
	}
	names, err := s.app.Names(ctx)
	return contract.ListPapers200JSONResponse{Papers: views.Each(list, func(h store.Hung) contract.Paper { return paperView(h, names) })}, err
}

// HangPaper hangs a maker's sheet.
func (s *Server) HangPaper(ctx context.Context, r contract.HangPaperRequestObject) (contract.HangPaperResponseObject, error) {
	b := r.Body
	h, err := s.app.HangPaper(ctx, who(ctx), app.Hanging{ID: b.ID, File: b.File, Hash: b.Hash, Title: b.Title, Recipe: b.Recipe,
		Joint: b.Joint, Step: b.Step, Page: b.Page})
	if err != nil {
		return nil, err
	}
	names, err := s.app.Names(ctx)
	return contract.HangPaper200JSONResponse(paperView(h, names)), err
}

func paperView(h store.Hung, names app.Names) contract.Paper {
	v := contract.Paper{ID: h.ID, Hash: h.Hash, Kind: "picture", Title: h.Title, Of: "recipe", Step: h.Step, Page: h.Page,
		By: names[h.Person.String()], At: h.At}
	if h.Type == "application/pdf" {
		v.Kind = "pdf"
	}
	if h.Joint != nil {
		v.Of = "joint"
	}
	return v
}

// TakePaperOff takes a maker's sheet off.
func (s *Server) TakePaperOff(ctx context.Context, r contract.TakePaperOffRequestObject) (contract.TakePaperOffResponseObject, error) {
	return contract.TakePaperOff204Response{}, s.app.TakePaperOff(ctx, who(ctx), r.Paper)
}

// GetPaper answers with a maker's sheet.
func (s *Server) GetPaper(ctx context.Context, r contract.GetPaperRequestObject) (contract.GetPaperResponseObject, error) {
	f, err := s.app.Paper(ctx, r.Hash)
	return paper(f), err
}

// paper is a maker's sheet as it is opened: beside the page, and as nothing but what it is.
type paper store.Sheet

func (p paper) VisitGetPaperResponse(w http.ResponseWriter) error {
	w.Header().Set("Content-Type", p.Type)
	w.Header().Set("Content-Disposition", "inline")
	w.Header().Set("X-Content-Type-Options", "nosniff")
	_, err := w.Write(p.Bytes)
	return err
}
