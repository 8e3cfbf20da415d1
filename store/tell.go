package store

import (
	"bytes"
	"context"
	"database/sql"
	"encoding/json"
	"fmt"

	"github.com/pressly/goose/v3"

	"envex/core/plan"
)

// told is the schema from which on every block says which circuit it is.
const told = 6

// tellModels says of all gear, as it stands and as it ever stood, which circuits its blocks are: what is
// brought back by an undo says it too.
var tellModels = goose.NewGoMigration(told, &goose.GoFunc{RunTx: func(ctx context.Context, tx *sql.Tx) error {
	for _, table := range []string{"aggregates", "revisions"} {
		if err := tellIn(ctx, tx, table); err != nil {
			return fmt.Errorf("say which circuits the gear is: %w", err)
		}
	}
	return nil
}}, &goose.GoFunc{RunTx: func(context.Context, *sql.Tx) error { return nil }}) // what is said does no harm before

func tellIn(ctx context.Context, tx *sql.Tx, table string) error {
	rows, err := tx.QueryContext(
		ctx, `SELECT t.rowid, t.doc FROM `+table+` t JOIN aggregates a ON a.id = t.id WHERE a.kind = ? AND t.doc IS NOT NULL`,
		string(plan.KindGear),
	)
	if err != nil {
		return err
	}
	docs := map[int64][]byte{}
	for rows.Next() {
		var id int64
		var doc []byte
		if err := rows.Scan(&id, &doc); err != nil {
			return err
		}
		var g plan.Gear
		if json.Unmarshal(doc, &g) != nil {
			continue // what is damaged is left for whoever repairs it
		}
		was, err := json.Marshal(g)
		if err != nil {
			return err
		}
		plan.TellModels(&g)
		is, err := json.Marshal(g)
		if err != nil {
			return err
		}
		if !bytes.Equal(was, is) {
			docs[id] = is
		}
	}
	if err := rows.Err(); err != nil {
		return err
	}
	if err := rows.Close(); err != nil {
		return err
	}
	for id, doc := range docs {
		if _, err := tx.ExecContext(ctx, `UPDATE `+table+` SET doc = ? WHERE rowid = ?`, string(doc), id); err != nil {
			return err
		}
	}
	return nil
}
