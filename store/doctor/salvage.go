package doctor

import (
	"context"
	"fmt"

	"github.com/jmoiron/sqlx"
)

// mostProbes is how many rows are asked for one by one between those that can be read in a row.
const mostProbes = 200_000

// salvage reads every row of a table that can be read: from the front until the pages break, from the back
// until they do, and what is in between one by one. It reports whether it met anything that could not be
// read.
func salvage(ctx context.Context, db *sqlx.DB, table, columns string, take func(row []any)) (broken bool) {
	query := fmt.Sprintf("SELECT rowid, %s FROM %s NOT INDEXED ", columns, table)
	first, err := rows(ctx, db, query+"ORDER BY rowid", -1, take)
	if err == nil {
		return false
	}
	last, _ := rows(ctx, db, query+"ORDER BY rowid DESC", first, take)
	for id := first + 1; id < last && id-first <= mostProbes; id++ {
		_, _ = rows(ctx, db, query+fmt.Sprintf("WHERE rowid = %d", id), -1, take) // what cannot be read is what is lost
	}
	return true
}

// rows gives rows until one cannot be read, or until one has the number that is given; it says which was
// the last. The number of a row comes first in it.
func rows(ctx context.Context, db *sqlx.DB, query string, until int64, take func(row []any)) (last int64, err error) {
	found, err := db.QueryxContext(ctx, query)
	if err != nil {
		return 0, err
	}
	defer found.Close()
	for found.Next() {
		row, err := found.SliceScan()
		if err != nil {
			return last, err
		}
		id, ok := row[0].(int64)
		if !ok {
			return last, fmt.Errorf("a row has no number")
		}
		if id == until {
			return last, nil
		}
		take(row[1:])
		last = id
	}
	return last, found.Err()
}

// text is a column as text; false where it holds something else.
func text(column any) (string, bool) {
	switch v := column.(type) {
	case string:
		return v, true
	case []byte:
		return string(v), true
	}
	return "", false
}

// number is a column as a whole number; false where it holds something else.
func number(column any) (int, bool) {
	v, ok := column.(int64)
	return int(v), ok
}
