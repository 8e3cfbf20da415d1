package wal_test

import (
	"bytes"
	"encoding/binary"
	"os"
	"path/filepath"
	"testing"

	"github.com/jmoiron/sqlx"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	_ "modernc.org/sqlite"

	"envex/store/wal"
)

// written is a log of that many transactions that SQLite wrote.
func written(t testing.TB, transactions int) []byte {
	t.Helper()
	path := filepath.Join(t.TempDir(), "x.db")
	db, err := sqlx.Open("sqlite", "file:"+path+"?_pragma=journal_mode(WAL)&_pragma=wal_autocheckpoint(0)")
	require.NoError(t, err)
	defer db.Close()
	db.SetMaxOpenConns(1)
	for i := range transactions {
		statement := `INSERT INTO x VALUES (zeroblob(9000))`
		if i == 0 {
			statement = `CREATE TABLE x (y)`
		}
		_, err := db.Exec(statement)
		require.NoError(t, err)
	}
	data, err := os.ReadFile(path + "-wal")
	require.NoError(t, err)
	return data
}

// ends are where the transactions of a log end.
func ends(data []byte) []int {
	page := int(binary.BigEndian.Uint32(data[8:]))
	var list []int
	for at := 32; at+24+page <= len(data); at += 24 + page {
		if binary.BigEndian.Uint32(data[at+4:]) > 0 {
			list = append(list, at+24+page)
		}
	}
	return list
}

func parsed(t testing.TB, data []byte) wal.Log {
	t.Helper()
	l, err := wal.Parse(bytes.NewReader(data))
	require.NoError(t, err)
	return l
}

func TestALogThatEndsEarlyIsNotDamaged(t *testing.T) {
	data := written(t, 4)
	ends := ends(data)
	require.Len(t, ends, 4)
	for n := range len(data) + 1 {
		if n > 64 && n%97 != 0 && n != len(data) {
			continue
		}
		whole := 0
		for _, end := range ends {
			if n >= end {
				whole++
			}
		}
		assert.Equal(t, wal.Log{Commits: whole}, parsed(t, data[:n]), "of %d bytes", n)
	}
}

func TestAByteThatTurnedIsFoundInAllButTheLastWrite(t *testing.T) {
	data := written(t, 4)
	ends := ends(data)
	for at := 0; at < ends[2]; at += 53 {
		damaged := bytes.Clone(data)
		damaged[at] ^= 0x40
		l := parsed(t, damaged)
		assert.NotZero(t, l.Damage, "at byte %d", at)
		assert.Positive(t, l.Lost, "at byte %d", at)
		assert.Less(t, l.Commits, 3, "at byte %d", at)
	}
	// The last may never have been acknowledged.
	torn := bytes.Clone(data)
	torn[ends[2]+30] ^= 0x40
	assert.Equal(t, wal.Log{Commits: 3}, parsed(t, torn))
}

func TestFramesOfAnEarlierLogAreNoDamage(t *testing.T) {
	data := written(t, 4)
	ends := ends(data)
	older := bytes.Clone(data)
	page := int(binary.BigEndian.Uint32(data[8:]))
	for at := ends[1]; at < len(older); at += 24 + page {
		older[at+8] ^= 1 // the salts of another log
	}
	assert.Equal(t, wal.Log{Commits: 2}, parsed(t, older))
}

func TestALastWriteWhosePagesReachedTheDiskInAnotherOrderIsNotDamage(t *testing.T) {
	data := written(t, 4)
	ends := ends(data)
	page := int(binary.BigEndian.Uint32(data[8:]))
	require.Greater(t, ends[3]-ends[2], 2*(24+page), "the last write is of several pages")
	torn := bytes.Clone(data)
	copy(torn[ends[2]:], bytes.Repeat([]byte{7}, 24+page)) // as it was under an earlier log
	assert.Equal(t, wal.Log{Commits: 3}, parsed(t, torn))
}

func TestALogThatIsNotThere(t *testing.T) {
	l, err := wal.Read(filepath.Join(t.TempDir(), "none"))
	require.NoError(t, err)
	assert.Equal(t, wal.Log{Missing: true}, l)
}

func FuzzParse(f *testing.F) {
	data := written(f, 3)
	f.Add(data)
	f.Add(data[:60])
	f.Add([]byte("no log"))
	f.Fuzz(func(t *testing.T, data []byte) {
		l := parsed(t, data)
		assert.Equal(t, l.Damage > 0, l.Lost > 0)
		assert.LessOrEqual(t, l.Commits, len(data)/(24+512))
	})
}
