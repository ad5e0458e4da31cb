package server

import (
	"context"
	"net/http"

	"dynacor/internal/contract"
	"dynacor/internal/store"
)

// KeepPhoto keeps a photograph.
func (s *Server) KeepPhoto(ctx context.Context, r contract.KeepPhotoRequestObject) (contract.KeepPhotoResponseObject, error) {
	p, err := s.app.KeepPhoto(ctx, who(ctx), r.Body.File)
	return contract.KeepPhoto200JSONResponse{Hash: p.Hash, Width: p.Width, Height: p.Height}, err
}

// GetPhoto answers with a photograph.
func (s *Server) GetPhoto(ctx context.Context, r contract.GetPhotoRequestObject) (contract.GetPhotoResponseObject, error) {
	p, err := s.app.Photo(ctx, r.Hash)
	return photo(p), err
}

// photo is a photograph as it is shown. Nothing keeps it: a tablet is shared.
type photo store.Photo

func (p photo) VisitGetPhotoResponse(w http.ResponseWriter) error {
	w.Header().Set("Content-Type", p.Type)
	w.Header().Set("X-Content-Type-Options", "nosniff")
	_, err := w.Write(p.Bytes)
	return err
}
