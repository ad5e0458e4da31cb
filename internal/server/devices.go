package server

import (
	"context"

	"dynacor/internal/contract"
	"dynacor/internal/store"
	"dynacor/internal/views"
)

// HeardDevice keeps what a device says of itself.
func (s *Server) HeardDevice(ctx context.Context, r contract.HeardDeviceRequestObject) (contract.HeardDeviceResponseObject, error) {
	d := store.Device{ID: r.Device, Name: r.Body.Name, Acts: r.Body.Acts, Joints: r.Body.Joints,
		Waiting: views.Each(r.Body.Waiting, func(w contract.DeviceWaiting) store.Waiting {
			return store.Waiting{Joint: w.Joint, Acts: w.Acts, Since: w.Since}
		})}
	if !r.Body.Since.IsZero() {
		d.Since = &r.Body.Since
	}
	return contract.HeardDevice204Response{}, s.app.HeardDevice(ctx, who(ctx), d)
}

// GoneDevice no longer looks for a device.
func (s *Server) GoneDevice(ctx context.Context, r contract.GoneDeviceRequestObject) (contract.GoneDeviceResponseObject, error) {
	return contract.GoneDevice204Response{}, s.app.GoneDevice(ctx, who(ctx), r.Device, r.Body.Why, r.Body.Lost)
}
