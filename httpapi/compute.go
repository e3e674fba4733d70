package httpapi

import (
	"context"
	"encoding/json"
	"net/http"
	"reflect"

	"github.com/danielgtaylor/huma/v2"
)

type computeIn struct {
	RawBody []byte `contentType:"application/json"`
}

type computeOut struct {
	Body json.RawMessage
}

// registerCompute offers every calculation of the core. The body goes to the
// engine as it came: its refusals are exact to the contract.
func (s *Server) registerCompute(api huma.API) {
	registry := api.OpenAPI().Components.Schemas
	for _, v := range s.engine.Verbs() {
		path := "/api/v1/compute/" + v.Name
		huma.Register(api, huma.Operation{
			OperationID: "compute-" + v.Name, Method: http.MethodPost, Path: path,
			Summary: v.Summary, Tags: []string{"compute"}, MaxBodyBytes: maxBody, BodyReadTimeout: -1, SkipValidateBody: true,
			Errors: []int{http.StatusUnprocessableEntity},
		}, func(_ context.Context, in *computeIn) (*computeOut, error) {
			out, err := s.engine.Run(v.Name, in.RawBody)
			if err != nil {
				return nil, answer(err)
			}
			return &computeOut{out}, nil
		})
		op := api.OpenAPI().Paths[path].Post
		op.RequestBody.Content["application/json"] = &huma.MediaType{Schema: registry.Schema(reflect.TypeOf(v.In), true, "In")}
		op.Responses["200"].Content["application/json"] = &huma.MediaType{Schema: registry.Schema(reflect.TypeOf(v.Out), true, "Out")}
	}
}
