package httpapi

import (
	"cmp"
	"context"
	"encoding/json"
	"errors"
	"io"
	"net/http"
	"net/url"
	"runtime/debug"
	"slices"
	"strconv"
	"strings"
	"time"

	"github.com/danielgtaylor/huma/v2"
	"github.com/google/uuid"
	"github.com/labstack/echo/v5"

	"talloak/app"
	"talloak/core/board"
	"talloak/core/decision"
	"talloak/core/measure"
	"talloak/core/problem"
	"talloak/core/record"
	"talloak/store"
)

// TakeWrite is a measurement as it is given: what was keyed, the path it was taken
// through, and what the kind reads. Wiring names the path with its kit as it was seen,
// as a staircase gives it; empty takes the path as it is.
type TakeWrite struct {
	record.Keyed
	PathID string          `json:"path_id" format:"uuid" required:"false" doc:"Left out where the kind needs none"`
	Wiring string          `json:"wiring" required:"false"`
	Draft  json.RawMessage `json:"draft"`
	AtRisk *AtRisk         `json:"at_risk,omitempty" doc:"The danger of the path is taken upon oneself; it is kept with what was taken"`
}

// AtRisk is how long is keyed at one's own risk, and rested between; both 0 for what had been taken already when
// the danger was seen.
type AtRisk struct {
	KeyS  float64 `json:"key_s" minimum:"0" maximum:"30"`
	RestS float64 `json:"rest_s" minimum:"0" maximum:"3600"`
}

func (r *AtRisk) fact() *record.Risk {
	if r == nil {
		return nil
	}
	return &record.Risk{KeyS: r.KeyS, RestS: r.RestS}
}

// TakeNew is a measurement to be kept under a key made by the client.
type TakeNew struct {
	ID string `json:"id" format:"uuid"`
	TakeWrite
}

func (w *TakeWrite) take(review, kind, id string) app.Take {
	return app.Take{ID: id, Kind: kind, ReviewID: review, Keyed: w.Keyed, PathID: w.PathID, Wiring: w.Wiring, Draft: w.Draft, AtRisk: w.AtRisk.fact()}
}

// StandingWrite is a word on a measurement, with its reason.
type StandingWrite struct {
	ID       string `json:"id" format:"uuid"`
	TargetID string `json:"target_id" format:"uuid"`
	Standing string `json:"standing" enum:"in-force,suspect,struck,explained"`
	Reason   string `json:"reason"`
}

type rawOut struct{ Body json.RawMessage }

func said(v measure.Answer) (*rawOut, error) {
	text, err := json.Marshal(v)
	return &rawOut{text}, err
}

// registerKinds offers each kind of measurement at /reviews/{id}/measure/KIND: what was
// taken, what stands for a box, a preview, and the taking.
func (s *Server) registerKinds(api huma.API, e *echo.Echo) {
	schemas := api.OpenAPI().Components.Schemas
	for _, kind := range s.app.Kinds {
		about := kind.About()
		at, tag := "/reviews/{id}/measure/"+about.Name, about.Name
		answers := func(method, path, status string, schema *huma.Schema) {
			item := api.OpenAPI().Paths[root+path]
			op := map[string]*huma.Operation{http.MethodGet: item.Get, http.MethodPost: item.Post}[method]
			op.Responses[status].Content["application/json"] = &huma.MediaType{Schema: schema}
		}
		view := schemas.Schema(about.Types.View, true, "View")

		get(api, tag, "list-"+about.Name, at, "A page of this kind in a review, worked out, in the order taken: the last of them, or from a place on", func(ctx context.Context, in *takenAsked) (*takenPage, error) {
			r, err := s.app.Open(ctx, in.ID, store.WithoutTraces, nil)
			if err != nil {
				return nil, err
			}
			return in.pageOf(r.Room(kind))
		})
		if !about.WithFile {
			get(api, tag, "list-"+about.Name+"-boxes", at+"/boxes", "How much was taken of each box of a review", func(ctx context.Context, in *IDPath) (*body[[]BoxCount], error) {
				r, err := s.app.Open(ctx, in.ID, store.WithoutTraces, nil)
				if err != nil {
					return nil, err
				}
				return &body[[]BoxCount]{boxesOf(r, kind)}, nil
			})
		}
		answers(http.MethodGet, at, "200", &huma.Schema{Type: huma.TypeArray, Items: view})
		get(api, tag, "get-"+about.Name+"-ruling", at+"/ruling", "What stands for a box at a frequency, to be looked at", func(ctx context.Context, in *boxAsked) (*rawOut, error) {
			r, err := s.app.Open(ctx, in.ID, store.WithTraces, nil)
			if err != nil {
				return nil, err
			}
			return said(r.Room(kind).Ruling(r.Meant(record.Keyed{Band: in.Band, Level: in.Level, Mode: record.Mode(in.Mode), FrequencyHz: in.FrequencyHz})))
		})
		answers(http.MethodGet, at+"/ruling", "200", schemas.Schema(about.Types.Ruling, true, "Ruling"))
		if !about.Always {
			get(api, tag, "export-"+about.Name, at+"/export", "The tables an edition has of this kind, as CSV", func(ctx context.Context, in *IDPath) (*download, error) {
				return s.exportTables(ctx, in.ID, kind, "")
			})
		}
		if about.Types.Study != nil {
			get(api, tag, "get-"+about.Name+"-study", at+"/study", "What is known beside the boxes: along frequency, supply and time, through several wirings", func(ctx context.Context, in *IDPath) (*rawOut, error) {
				r, err := s.app.Open(ctx, in.ID, tracesOf(about), nil)
				if err != nil {
					return nil, err
				}
				return said(r.Room(kind).Inside().(measure.Student).Studied())
			})
			answers(http.MethodGet, at+"/study", "200", schemas.Schema(about.Types.Study, true, "Study"))
			get(api, tag, "get-"+about.Name+"-table", at+"/table", "One of the tables an edition has of this kind, by its title, as CSV", func(ctx context.Context, in *tableAsked) (*download, error) {
				return s.exportTables(ctx, in.ID, kind, in.Of)
			})
		}
		if o, ok := kind.(measure.Offerer); ok && o.Offers().Type != nil {
			get(api, tag, "get-"+about.Name+"-offers", "/kinds/"+about.Name, "What the kind offers before anything is measured", func(context.Context, *nothing) (*rawOut, error) {
				return said(o.Offers().Answer)
			})
			answers(http.MethodGet, "/kinds/"+about.Name, "200", schemas.Schema(o.Offers().Type, true, "Offers"))
		}
		if reader, ok := kind.(measure.LineReader); ok {
			get(api, tag, "read-"+about.Name+"-line", "/lines/"+about.Name, "What a typed line asks for: to be kept, or something beside", func(_ context.Context, in *lineAsked) (*rawOut, error) {
				return said(reader.ReadLine(in.Text))
			})
			answers(http.MethodGet, "/lines/"+about.Name, "200", schemas.Schema(about.Types.Line, true, "Command"))
		}
		if about.WithFile {
			s.registerFile(api, e, kind, at, view)
			continue
		}
		draft := schemas.Schema(about.Types.Draft, true, "Draft")
		asks := func(path, name string) {
			typed := *schemas.Map()[name]
			typed.Properties = map[string]*huma.Schema{}
			for field, schema := range schemas.Map()[name].Properties {
				typed.Properties[field] = schema
			}
			typed.Properties["draft"] = draft
			api.OpenAPI().Paths[root+path].Post.RequestBody.Content["application/json"] = &huma.MediaType{Schema: &typed}
		}
		post(api, tag, "preview-"+about.Name, at+"/preview", "Work one out without keeping it", http.StatusOK, func(ctx context.Context, in *struct {
			IDPath
			Body TakeWrite
		}) (*rawOut, error) {
			out, err := s.app.Preview(ctx, in.Body.take(in.ID, about.Name, ""))
			if err != nil {
				return nil, err
			}
			return said(out)
		}, large)
		answers(http.MethodPost, at+"/preview", "200", view)
		asks(at+"/preview", "TakeWrite")
		post(api, tag, "add-"+about.Name, at, "Keep one under an id made by the client; 409 when the path was changed since it was seen", created, func(ctx context.Context, in *struct {
			IDPath
			Body TakeNew
		}) (*rawOut, error) {
			out, err := s.app.Measure(ctx, in.Body.take(in.ID, about.Name, in.Body.ID))
			if err != nil {
				return nil, err
			}
			return said(out)
		}, large)
		answers(http.MethodPost, at, "201", view)
		asks(at, "TakeNew")
	}
}

// takenAsked asks for a page of measurements. Nothing is ever put between those there are, so a
// place in their order stays the same.
type takenAsked struct {
	IDPath
	From  int `query:"from" default:"-1" minimum:"-1" doc:"The place of the first one, from 0 in the order taken; without it the page ends with the last"`
	Limit int `query:"limit" default:"500" minimum:"1" maximum:"1000"`
}

// takenPage is a page of measurements, with how many there are and the place of its first one.
type takenPage struct {
	Total int `header:"X-Total-Count"`
	From  int `header:"X-From"`
	Body  json.RawMessage
}

func (p *takenAsked) pageOf(room measure.Room) (*takenPage, error) {
	out := &takenPage{Total: room.Count(), From: p.From}
	if out.From < 0 {
		out.From = max(0, out.Total-p.Limit)
	}
	out.From = min(out.From, out.Total)
	text, err := json.Marshal(room.List(out.From, min(out.Total, out.From+p.Limit)))
	out.Body = text
	return out, err
}

// BoxCount is how much was taken of a box, and whether something of it counts.
type BoxCount struct {
	Name  string `json:"name"`
	Taken int    `json:"taken"`
	Done  bool   `json:"done"`
}

func boxesOf(r *measure.Review, kind measure.Kind) []BoxCount {
	about := kind.About()
	cells := about.Cells(r)
	out := make([]BoxCount, len(cells))
	for i, c := range cells {
		box := r.Room(kind).Box(c, false)
		out[i] = BoxCount{r.BoxName(c), box.Taken, len(box.Frequencies) > 0 || about.Whole && !slices.Contains([]decision.Verdict{decision.NotExamined, decision.NotCovered, decision.Void}, box.Verdict)}
	}
	return out
}

type lineAsked struct {
	Text string `query:"text" maxLength:"500"`
}

type boxAsked struct {
	IDPath
	Band        string  `query:"band" doc:"Empty for the whole radio"`
	Level       string  `query:"level"`
	Mode        string  `query:"mode" doc:"FM, AM, SSB, CW or DIGITAL; the only one there is where it is left out"`
	FrequencyHz float64 `query:"frequency_hz" minimum:"0" doc:"One of those measured; without it the worst stands for the box"`
}

// registerFile offers the taking of a kind that is read from a file. The file is the
// body, as it is, so that 64 MiB need no copy in another form; what goes with it is in
// the query.
func (s *Server) registerFile(api huma.API, e *echo.Echo, kind measure.Kind, at string, view *huma.Schema) {
	about := kind.About()
	draft := api.OpenAPI().Components.Schemas.Schema(about.Types.Draft, true, "Draft")
	text := &huma.Schema{Type: huma.TypeString}
	param := func(name, doc string) *huma.Param {
		return &huma.Param{Name: name, In: "query", Required: doc == "", Description: doc, Schema: text}
	}
	api.OpenAPI().AddOperation(&huma.Operation{
		OperationID: "add-" + about.Name, Method: http.MethodPost, Path: root + at, Tags: []string{about.Name},
		Summary: "Keep one, read from the file in the body, under an id made by the client",
		Parameters: []*huma.Param{
			{Name: "id", In: "path", Required: true, Schema: text}, param("key", ""), param("band", ""), param("level", "Empty for a whole band"), param("mode", ""), param("frequency_hz", ""),
			param("path_id", "Empty for what a receiver hears of itself"), param("wiring", "As a staircase gave it"), param("file", "The name of the file"),
			param("draft", "What goes with the file, as JSON of "+draft.Ref), param("at_risk", "The danger of the path is taken upon oneself: the seconds keyed and those of rest, 5/60; 0/0 for what was taken already"),
		},
		RequestBody: &huma.RequestBody{Required: true, Description: "The file; or a look as it was typed, where the draft says so. At .../preview nothing is kept", Content: map[string]*huma.MediaType{"text/csv": {Schema: &huma.Schema{Type: huma.TypeString, Format: "binary"}}}},
		Responses:   map[string]*huma.Response{"201": {Description: "Created", Content: map[string]*huma.MediaType{"application/json": {Schema: view}}}},
	})
	e.POST("/api/v1/reviews/:id/measure/"+about.Name+"/preview", func(c *echo.Context) error {
		take, err := fileTake(c, about.Name, false)
		var out measure.Answer
		if err == nil {
			out, err = s.app.Preview(c.Request().Context(), *take)
		}
		return answerFile(c, http.StatusOK, out, err)
	})
	e.POST("/api/v1/reviews/:id/measure/"+about.Name, func(c *echo.Context) error {
		take, err := fileTake(c, about.Name, true)
		if err == nil && len(take.File.Content) > giveBackFrom {
			defer func() { time.AfterFunc(time.Second, giveBack) }() // when this has been answered
		}
		var out measure.Answer
		if err == nil {
			out, err = s.app.Measure(c.Request().Context(), *take)
		}
		return answerFile(c, http.StatusCreated, out, err)
	})
}

func answerFile[T any](c *echo.Context, status int, out T, err error) error {
	var p *Problem
	switch {
	case err == nil:
		return c.JSON(status, out)
	case errors.As(answer(err), &p):
		writeProblem(c, p)
		return nil
	}
	return err
}

// giveBack gives back what is not used any more; pools let go at the second collection.
func giveBack() {
	debug.FreeOSMemory()
	debug.FreeOSMemory()
}

// giveBackFrom is the size in bytes from which on the memory a file took is given back to
// the machine, rather than kept for the next.
const giveBackFrom = 8 << 20

// maxFile is the largest file that is read.
const maxFile = 64 << 20

// riskOf reads the seconds keyed and rested at one's own risk, 5/60; nil of nothing.
func riskOf(text string) (*record.Risk, error) {
	if text == "" {
		return nil, nil
	}
	key, rest, two := strings.Cut(text, "/")
	keyS, err1 := strconv.ParseFloat(key, 64)
	restS, err2 := strconv.ParseFloat(rest, 64)
	if !two || err1 != nil || err2 != nil {
		return nil, problem.New("at_risk", "give the seconds keyed and those of rest, such as 5/60; 0/0 for what was taken already")
	}
	return &record.Risk{KeyS: keyS, RestS: restS}, nil
}

// fileTake is what the query and body say of a measurement; one that is kept has a key.
func fileTake(c *echo.Context, kind string, kept bool) (*app.Take, error) {
	q := c.Request().URL.Query()
	var bad problem.List
	for field, id := range map[string]string{"id": c.Param("id"), "key": q.Get("key"), "path_id": q.Get("path_id")} {
		if id == "" && field == "path_id" { // whether a path is needed is told by what is taken
			continue
		}
		if uuid.Validate(id) != nil && (field != "key" || kept) {
			bad.Add(field, "give a UUID")
		}
	}
	hz, err := strconv.ParseFloat(q.Get("frequency_hz"), 64)
	if err != nil || !(hz > 0) {
		bad.Add("frequency_hz", "give a frequency above 0 Hz")
	}
	mode := record.Mode(q.Get("mode"))
	if mode != "" && !mode.Known() {
		bad.Add("mode", "give FM, AM, SSB, CW or DIGITAL")
	}
	if err := bad.Err(); err != nil {
		return nil, err
	}
	risk, err := riskOf(q.Get("at_risk"))
	if err != nil {
		return nil, err
	}
	content, err := readFile(c.Request())
	if err != nil {
		return nil, err
	}
	return &app.Take{
		AtRisk: risk,
		ID:     q.Get("key"), Kind: kind, ReviewID: c.Param("id"), PathID: q.Get("path_id"), Wiring: q.Get("wiring"), Draft: json.RawMessage(q.Get("draft")),
		Keyed: record.Keyed{Band: q.Get("band"), Level: q.Get("level"), Mode: mode, FrequencyHz: hz},
		File:  &record.File{Name: fileName(q), MediaType: "text/csv", Content: content},
	}, nil
}

func fileName(q url.Values) string {
	if name := q.Get("file"); name != "" {
		return name
	}
	return "file.csv"
}

// readFile reads the whole body into as much memory as it takes and no more.
func readFile(r *http.Request) ([]byte, error) {
	tooLarge := huma.NewError(http.StatusRequestEntityTooLarge, "")
	if r.ContentLength > maxFile {
		return nil, tooLarge
	}
	if r.ContentLength > 0 {
		out := make([]byte, r.ContentLength)
		_, err := io.ReadFull(r.Body, out)
		return out, err
	}
	out, err := io.ReadAll(io.LimitReader(r.Body, maxFile+1))
	if err == nil && len(out) > maxFile {
		err = tooLarge
	}
	return out, err
}

type tableAsked struct {
	IDPath
	Of string `query:"of" required:"true" doc:"The title of the table"`
}

// tracesOf are needed where a kind is read from files.
func tracesOf(about measure.About) store.Traces {
	if about.WithFile {
		return store.WithTraces
	}
	return store.WithoutTraces
}

// exportTables writes what an edition tells of a kind in tables as CSV: the one of a title,
// or all of them.
func (s *Server) exportTables(ctx context.Context, id string, kind measure.Kind, title string) (*download, error) {
	r, err := s.app.Open(ctx, id, tracesOf(kind.About()), nil)
	if err != nil {
		return nil, err
	}
	about, b := kind.About(), board.Of(r, false)
	var rows [][]string
	found := false
	for _, section := range r.Room(kind).Sections(b.Boxes(about.Name)) {
		if title != "" && section.Title != title {
			continue
		}
		found = true
		rows = append(append(rows, section.Columns), section.Rows...)
	}
	if title != "" && !found {
		return nil, problem.New("of", "the review has no table %q", title)
	}
	content, err := measure.CSV(rows)
	if err != nil {
		return nil, err
	}
	return &download{"text/csv; charset=utf-8", attachment(r.Title() + ", " + cmp.Or(title, about.Name) + ".csv"), pagePolicy, content}, nil
}

type standingSaid struct {
	IDPath
	Body StandingWrite
}

func (s *Server) addStanding(ctx context.Context, in *standingSaid) (*body[StandingWrite], error) {
	w := in.Body
	err := s.app.Say(ctx, record.Standing{ID: w.ID, ReviewID: in.ID, TargetID: w.TargetID, Standing: w.Standing, Reason: w.Reason})
	return &body[StandingWrite]{w}, err
}

func (s *Server) getFile(ctx context.Context, in *IDPath) (*download, error) {
	f, err := s.app.Store.File(ctx, in.ID)
	if err != nil {
		return nil, err
	}
	return &download{f.MediaType + "; charset=utf-8", attachment(f.Name), pagePolicy, f.Content}, nil
}

// download is a file as it was kept.
type download struct {
	ContentType string `header:"Content-Type"`
	Disposition string `header:"Content-Disposition"`
	Policy      string `header:"Content-Security-Policy"`
	Body        []byte
}
