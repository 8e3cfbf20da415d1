package api

import (
	"context"
	"errors"
	"fmt"
	"io"
	"net/http"
	"os"
	"path/filepath"
	"time"

	"github.com/danielgtaylor/huma/v2"
	"github.com/gin-gonic/gin"

	"envex/store"
)

const (
	// copiesFilePath is where a copy is brought from a file.
	copiesFilePath = "/api/copies/file"
	backupPath     = "/api/backup"
)

// MaxCopy is the largest copy that is brought from a file, in bytes.
const MaxCopy = 256 << 20

type copiesOutput struct {
	Body struct {
		Copies []store.Kept `json:"copies" doc:"The newest first."`
		Folder string       `json:"folder" doc:"Where they are."`
	}
}

type keptCopyOutput struct{ Body store.Kept }

type copyInput struct {
	Name string `path:"name" maxLength:"100"`
}

type restoreCopyInput struct {
	Writing
	Name string `path:"name" maxLength:"100"`
}

// RestoredPlan is the answer to bringing back a copy.
type RestoredPlan struct {
	Written
	Brought    []string `json:"brought" doc:"Things that are now as they were in the copy."`
	Removed    []string `json:"removed" doc:"Things that were not in the copy."`
	Rehearsals int      `json:"rehearsals" doc:"Rehearsals that were brought back."`
}

type restoreCopyOutput struct{ Body RestoredPlan }

func (s *Server) copyRoutes(api huma.API) {
	huma.Register(
		api,
		huma.Operation{
			OperationID: "get-copies", Method: http.MethodGet, Path: "/api/copies",
			Summary: "The copies that are kept beside the database",
		},
		s.getCopies,
	)
	huma.Register(api, huma.Operation{
		OperationID: "post-copy", Method: http.MethodPost, Path: "/api/copies",
		Summary: "Make a copy beside the database, and keep it",
	},
		func(ctx context.Context, _ *struct{}) (*keptCopyOutput, error) {
			kept, err := s.store.KeepCopy(ctx)
			if err != nil {
				return nil, s.problem(err, "")
			}
			return &keptCopyOutput{Body: kept}, nil
		})
	huma.Register(api, huma.Operation{
		OperationID: "delete-copy", Method: http.MethodDelete, Path: "/api/copies/{name}", Summary: "Remove a copy",
	},
		func(_ context.Context, in *copyInput) (*struct{}, error) {
			if err := s.store.RemoveCopy(in.Name); err != nil {
				return nil, s.problem(err, "")
			}
			return &struct{}{}, nil
		})
	huma.Register(api, huma.Operation{
		OperationID: "restore-copy", Method: http.MethodPost, Path: "/api/copies/{name}/restore",
		Summary:     "Make the plan what it is in a copy",
		Description: "One transaction, which undo takes back. Rehearsals that are not here are brought back.",
	}, s.restoreCopy)
}

// rawCopyRoutes are those whose bodies are databases.
func (s *Server) rawCopyRoutes(router *gin.Engine) {
	router.GET(backupPath, s.sendBackup)
	router.GET("/api/copies/:name/file", s.sendCopy)
	router.POST(copiesFilePath, s.takeCopy)
}

func (s *Server) getCopies(ctx context.Context, _ *struct{}) (*copiesOutput, error) {
	list, err := s.store.Copies(ctx)
	if err != nil {
		return nil, s.problem(err, "")
	}
	out := &copiesOutput{}
	out.Body.Copies, out.Body.Folder = list, s.store.Folder()
	return out, nil
}

func (s *Server) restoreCopy(ctx context.Context, in *restoreCopyInput) (*restoreCopyOutput, error) {
	path, err := s.store.CopyPath(in.Name)
	if err != nil {
		return nil, s.problem(err, "")
	}
	info, err := os.Stat(path)
	if err != nil {
		return nil, s.problem(store.ErrNoCopy, "")
	}
	r, err := s.store.Restore(
		ctx, path, "Bring back the copy of "+info.ModTime().Format("2 January 2006, 15:04"), in.Request,
	)
	if err != nil {
		return nil, s.problem(err, "")
	}
	written, err := s.written(ctx, in.Writing, "", r.Done, nil)
	if err != nil {
		return nil, err
	}
	return &restoreCopyOutput{
		Body: RestoredPlan{Written: written.Body, Brought: r.Brought, Removed: r.Removed, Rehearsals: r.Rehearsals},
	}, nil
}

// sendBackup gives a fresh copy of the database.
func (s *Server) sendBackup(c *gin.Context) {
	dir, err := os.MkdirTemp("", "envex-backup-")
	if err != nil {
		s.fail(c, err)
		return
	}
	defer os.RemoveAll(dir)
	path := filepath.Join(dir, "plan.db")
	if _, err := s.store.Backup(c.Request.Context(), path); err != nil {
		s.fail(c, err)
		return
	}
	sendFile(c, path, "envex-"+time.Now().Format("2006-01-02-1504")+".db")
}

func (s *Server) sendCopy(c *gin.Context) {
	path, err := s.store.CopyPath(c.Param("name"))
	if err != nil {
		s.fail(c, err)
		return
	}
	sendFile(c, path, "envex-"+c.Param("name")+".db")
}

func sendFile(c *gin.Context, path, name string) {
	c.Header("Cache-Control", "no-store")
	c.Header("Content-Type", "application/octet-stream")
	c.FileAttachment(path, name)
}

// takeCopy puts a copy from a file beside the others, where it is one.
func (s *Server) takeCopy(c *gin.Context) {
	dir, err := os.MkdirTemp("", "envex-take-")
	if err != nil {
		s.fail(c, err)
		return
	}
	defer os.RemoveAll(dir)
	path := filepath.Join(dir, "plan.db")
	if err := spool(c.Request.Body, path); err != nil {
		s.tooLarge(c, err, "The copy is larger than 256 MB.")
		return
	}
	kept, err := s.store.TakeCopy(c.Request.Context(), path)
	if err != nil {
		s.fail(c, err)
		return
	}
	c.JSON(http.StatusOK, kept)
}

// spool writes a body to a file as it arrives, so that its size is no matter of memory.
func spool(body io.Reader, path string) error {
	f, err := os.OpenFile(path, os.O_WRONLY|os.O_CREATE|os.O_EXCL, 0o600)
	if err != nil {
		return fmt.Errorf("api: %w", err)
	}
	_, err = io.Copy(f, body)
	return errors.Join(err, f.Close())
}

// fail answers a request that is no JSON with the problem document of an error.
func (s *Server) fail(c *gin.Context, err error) {
	var problem huma.StatusError
	if !errors.As(s.problem(err, ""), &problem) {
		problem = huma.Error500InternalServerError("Something went wrong inside Envex. Nothing was changed.")
	}
	c.Header("Content-Type", "application/problem+json")
	c.AbortWithStatusJSON(problem.GetStatus(), problem)
}
