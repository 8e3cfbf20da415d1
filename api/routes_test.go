package api_test

import (
	"context"
	"encoding/json"
	"fmt"
	"net/http"
	"net/url"
	"sort"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"envex/api"
)

type param struct {
	Name, In string
	Required bool
	Schema   struct {
		Type    string
		Enum    []any
		Minimum *float64
	}
}

type route struct {
	OperationID string `json:"operationId"`
	Summary     string
	Parameters  []param
	RequestBody json.RawMessage `json:"requestBody"`
}

func document(t *testing.T) map[string]map[string]route {
	t.Helper()
	data, err := api.Document()
	require.NoError(t, err)
	var doc struct {
		Paths map[string]map[string]route
	}
	require.NoError(t, json.Unmarshal(data, &doc))
	return doc.Paths
}

// filled is the address of an operation with something for each parameter: what is not there for what
// names a thing, and the first of what may be chosen.
func filled(path string, o route) (address string, names int) {
	query := url.Values{}
	for _, p := range o.Parameters {
		value := ""
		switch {
		case len(p.Schema.Enum) > 0:
			value = fmt.Sprint(p.Schema.Enum[0])
		case p.Schema.Type == "integer" || p.Schema.Type == "number":
			value = "1"
			if p.Schema.Minimum != nil {
				value = fmt.Sprint(max(*p.Schema.Minimum, 1))
			}
		case p.Schema.Type == "boolean":
			value = "false"
		case p.Schema.Type == "string":
			value = "nowhere"
			names++
		}
		switch {
		case p.In == "path":
			path = strings.ReplaceAll(path, "{"+p.Name+"}", value)
		case p.In == "query" && p.Required:
			query.Set(p.Name, value)
		}
	}
	if len(query) > 0 {
		path += "?" + query.Encode()
	}
	return path, names
}

// What is not there is a problem document on every route that names a thing, and none of them is a fault
// of the server's.
func TestNoRouteKnowsWhatIsNotThere(t *testing.T) {
	s := withDemo(t)
	asked := 0
	for path, methods := range document(t) {
		o, ok := methods["get"]
		if !ok {
			continue
		}
		address, names := filled(path, o)
		required := false
		for _, p := range o.Parameters {
			required = required || p.Required && p.Schema.Type == "string" && len(p.Schema.Enum) == 0
		}
		if names == 0 || !required {
			continue
		}
		t.Run(o.OperationID, func(t *testing.T) {
			w := s.send("GET", address, nil)
			assert.Less(t, w.Code, 500, w.Body.String())
			switch o.OperationID {
			case "get-uses", "get-revisions", "get-rehearsals":
				assert.Equal(t, http.StatusOK, w.Code, "of nothing there is nothing")
				return
			}
			assert.GreaterOrEqual(t, w.Code, 400, "%s: %s", address, w.Body)
			assert.Equal(t, "application/problem+json", w.Header().Get("Content-Type"))
			var problem struct{ Detail string }
			require.NoError(t, json.Unmarshal(w.Body.Bytes(), &problem))
			assert.NotEmpty(t, problem.Detail)
			assert.True(
				t, strings.HasSuffix(problem.Detail, ".") || strings.Contains(problem.Detail, "validation"), "%q is a sentence",
				problem.Detail,
			)
		})
		asked++
	}
	assert.Greater(t, asked, 15)
}

// A body that is no JSON, or JSON of another shape, is refused by every route that takes one, and nothing is changed.
func TestNoRouteTakesABodyOfAnotherShape(t *testing.T) {
	s := withDemo(t)
	before := s.send("GET", "/api/plan", nil).Body.String()
	for path, methods := range document(t) {
		for method, o := range methods {
			if len(o.RequestBody) == 0 || o.OperationID == "read-songs" || o.OperationID == "import-file" {
				continue
			}
			address, _ := filled(path, o)
			for _, body := range []string{"{", "[1,2]", `"x"`, `{"surprise":true}`} {
				w := s.send(strings.ToUpper(method), address, []byte(body))
				assert.GreaterOrEqual(t, w.Code, 400, "%s %s with %s: %s", method, address, body, w.Body)
				assert.Less(t, w.Code, 500, "%s %s with %s: %s", method, address, body, w.Body)
			}
			w := s.send(
				strings.ToUpper(method), address, []byte("x"), func(r *http.Request) { r.Header.Set("Content-Type", "text/plain") },
			)
			assert.Equal(t, http.StatusUnsupportedMediaType, w.Code, "%s %s", method, address)
		}
	}
	assert.JSONEq(t, before, s.send("GET", "/api/plan", nil).Body.String())
}

func TestEveryRouteSaysWhatItIsFor(t *testing.T) {
	seen := map[string]string{}
	var ids []string
	for path, methods := range document(t) {
		assert.True(t, strings.HasPrefix(path, "/api/"), path)
		for method, o := range methods {
			assert.NotEmpty(t, o.Summary, "%s %s", method, path)
			assert.Empty(t, seen[o.OperationID], "%s %s is called as %s", method, path, seen[o.OperationID])
			seen[o.OperationID] = method + " " + path
			ids = append(ids, o.OperationID)
		}
	}
	sort.Strings(ids)
	for _, id := range []string{
		"get-plan", "get-sheet", "get-sheet-file", "get-page", "get-journal", "keep-fix", "fresh-battery",
		"compare-revisions", "restore-revision",
	} {
		assert.Contains(t, ids, id)
	}
}

// A request whose asker has gone is no fault of the program.
func TestACancelledRequestIsNoFault(t *testing.T) {
	s := start(t)
	s.loadDemo()
	ctx, cancel := context.WithCancel(t.Context())
	cancel()
	w := s.send("GET", "/api/order?rig=long", nil, func(r *http.Request) { *r = *r.WithContext(ctx) })
	p := refused(t, w, http.StatusServiceUnavailable)
	assert.Contains(t, p.Detail, "cancelled")
}
