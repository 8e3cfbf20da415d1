package store

import "fmt"

// Full has the database grow no more, as on a disk that is full, and Roomy lets it grow again.
func (s *Store) Full()  { s.pages(1) }
func (s *Store) Roomy() { s.pages(1 << 30) }

func (s *Store) pages(most int) {
	s.db.SetMaxOpenConns(1)
	if _, err := s.db.Exec(fmt.Sprintf(`PRAGMA max_page_count = %d`, most)); err != nil {
		panic(err)
	}
}
