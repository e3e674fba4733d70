package httpapi

import (
	"context"
	"encoding/json"
	"reflect"

	"github.com/danielgtaylor/huma/v2"

	"talloak/app"
	"talloak/core/kit"
	"talloak/core/record"
)

// DriverView is a driver in the list.
type DriverView struct {
	ID     string   `json:"id"`
	Kind   kit.Kind `json:"kind"`
	Name   string   `json:"name"`
	Says   string   `json:"says"`
	Cannot []string `json:"cannot"`
	Own    bool     `json:"own"`
}

// InstrumentsView says what can be spoken with from here. Open tells that others reach this server
// too; Off that it connects to no instrument.
type InstrumentsView struct {
	Open    bool         `json:"open"`
	Off     bool         `json:"off"`
	Drivers []DriverView `json:"drivers"`
}

func (s *Server) listDrivers(ctx context.Context, _ *nothing) (*body[InstrumentsView], error) {
	all, own, err := s.app.Drivers(ctx)
	if err != nil {
		return nil, err
	}
	out := InstrumentsView{s.app.Rack.Open, s.app.Rack.Off, []DriverView{}}
	for _, d := range all {
		out.Drivers = append(out.Drivers, DriverView{d.ID, d.Kind, d.Name, d.Says, append([]string{}, d.Cannot...), own[d.ID]})
	}
	return &body[InstrumentsView]{out}, nil
}

type driverNamed struct {
	Driver string `path:"driver"`
}

func (s *Server) getDriver(ctx context.Context, in *driverNamed) (*download, error) {
	d, err := s.app.Driver(ctx, in.Driver)
	if err != nil {
		return nil, err
	}
	return &download{"application/json", attachment(d.ID + ".json"), pagePolicy, append(d.JSON(), '\n')}, nil
}

func (s *Server) getDriverSchema(context.Context, *nothing) (*download, error) {
	text, err := json.MarshalIndent(DriverSchema(), "", " ")
	return &download{"application/schema+json", attachment("driver.schema.json"), pagePolicy, append(text, '\n')}, err
}

// DriverSchema is the JSON Schema of a driver.
func DriverSchema() map[string]any {
	registry := huma.NewMapRegistry("#/$defs/", schemaName)
	root := registry.Schema(reflect.TypeFor[app.Driver](), true, "Driver")
	refine(registry.Map())
	return map[string]any{
		"$schema": "https://json-schema.org/draft/2020-12/schema", "title": "A driver of an instrument, of Tall Oak", "$ref": root.Ref, "$defs": registry.Map(),
	}
}

type driverFile struct {
	RawBody []byte `contentType:"application/json"`
}

func (s *Server) addDriver(ctx context.Context, in *driverFile) (*body[DriverView], error) {
	d, err := s.app.KeepDriver(ctx, in.RawBody)
	if err != nil {
		return nil, err
	}
	return &body[DriverView]{DriverView{d.ID, d.Kind, d.Name, d.Says, append([]string{}, d.Cannot...), true}}, nil
}

func (s *Server) removeDriver(ctx context.Context, in *driverNamed) (*nothing, error) {
	return nil, s.app.RemoveDriver(ctx, in.Driver)
}

type socketPut struct {
	IDPath
	Body record.Socket
}

func (s *Server) putSocket(ctx context.Context, in *socketPut) (*nothing, error) {
	return nil, s.app.PutSocket(ctx, record.Socket{KitID: in.ID, Address: in.Body.Address, Driver: in.Body.Driver})
}

// Aware says that who asks knows that others reach this server too.
type Aware struct {
	Aware bool `query:"aware" doc:"I know that this server is open to others"`
}

type instrumentTried struct {
	IDPath
	Aware
	Body struct {
		Driver string `json:"driver" required:"false" doc:"The text of a driver to try instead of the one kept"`
	}
}

func (s *Server) tryInstrument(ctx context.Context, in *instrumentTried) (*body[app.Tried], error) {
	out, err := s.app.TryDriver(ctx, in.ID, in.Aware.Aware, []byte(in.Body.Driver))
	if err != nil {
		return nil, err
	}
	return &body[app.Tried]{*out}, nil
}

type instrumentSet struct {
	IDPath
	Aware
	Body struct {
		Settings  map[string]string `json:"settings" doc:"of a supply volts, amps, output; of a generator frequency_hz, level_dbm, output"`
		Confirmed bool              `json:"confirmed" required:"false" doc:"What could hurt was seen, and may be sent"`
	}
}

func (s *Server) setInstrument(ctx context.Context, in *instrumentSet) (*body[app.SetView], error) {
	out, err := s.app.SetInstrument(ctx, in.ID, in.Body.Settings, in.Body.Confirmed, in.Aware.Aware)
	if err != nil {
		return nil, err
	}
	return &body[app.SetView]{*out}, nil
}

type instrumentRead struct {
	IDPath
	Aware
	Body struct {
		Text string `json:"text" required:"false" maxLength:"500" doc:"What stands on the line already: what is read is put with it"`
	}
}

func (s *Server) readPower(ctx context.Context, in *instrumentRead) (*body[app.Read], error) {
	out, err := s.app.ReadPower(ctx, in.ID, in.Body.Text, in.Aware.Aware)
	if err != nil {
		return nil, err
	}
	return &body[app.Read]{*out}, nil
}

func (s *Server) readFrequency(ctx context.Context, in *instrumentRead) (*body[app.Read], error) {
	out, err := s.app.ReadFrequency(ctx, in.ID, in.Aware.Aware)
	if err != nil {
		return nil, err
	}
	return &body[app.Read]{*out}, nil
}

type sweepingStarted struct {
	IDPath
	Aware
	Body struct {
		record.Keyed
		PathID    string  `json:"path_id" format:"uuid"`
		Wiring    string  `json:"wiring" required:"false"`
		StartHz   float64 `json:"start_hz" required:"false" minimum:"0" doc:"Of the range to look at; 0 for the one told"`
		StopHz    float64 `json:"stop_hz" required:"false" minimum:"0"`
		Modulated string  `json:"modulated" required:"false" enum:",bare,modulated"`
		Confirmed bool    `json:"confirmed" required:"false" doc:"What could hurt the input was seen, and may be sent"`
	}
}

func (s *Server) startSweeping(ctx context.Context, in *sweepingStarted) (*body[app.SweepingView], error) {
	b := in.Body
	out, err := s.app.StartSweeping(ctx, app.SweepAsk{
		ReviewID: in.ID, Keyed: b.Keyed, PathID: b.PathID, Wiring: b.Wiring, StartHz: b.StartHz, StopHz: b.StopHz, Modulated: b.Modulated, Confirmed: b.Confirmed, Aware: in.Aware.Aware,
	})
	if err != nil {
		return nil, err
	}
	return &body[app.SweepingView]{*out}, nil
}

func (s *Server) lookAtSweeping(_ context.Context, in *IDPath) (*body[app.SweepingView], error) {
	out, err := s.app.LookAtSweeping(in.ID)
	if err != nil {
		return nil, err
	}
	return &body[app.SweepingView]{*out}, nil
}

func (s *Server) takeSweeping(_ context.Context, in *IDPath) (*body[app.TakenSweep], error) {
	out, err := s.app.TakeSweeping(in.ID)
	if err != nil {
		return nil, err
	}
	return &body[app.TakenSweep]{*out}, nil
}

func (s *Server) endSweeping(_ context.Context, in *IDPath) (*nothing, error) {
	return nil, s.app.EndSweeping(in.ID)
}
