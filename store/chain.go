package store

import (
	"context"
	"crypto/sha256"
	"encoding/hex"
	"errors"
	"fmt"
	"maps"
	"slices"
	"strings"

	"gorm.io/gorm"
)

// summed are the tables of facts, each with the columns that a fact is made of, as text or
// bytes. What is added to a table later is not summed: it would change what was summed before.
var summed = map[string][]string{
	"measurements":    {"review_id", "kind", "format", "taken_at", "band", "level", "mode", "frequency_hz", "payload", "through", "blob"},
	"files":           {"name", "media_type", "packed"},
	"older_files":     {"name", "original"},
	"standings":       {"review_id", "target_id", "standing", "reason", "said_at"},
	"editions":        {"review_id", "number", "frozen_at", "title", "headline", "sha256", "page_sha256", "document", "page"},
	"outside_figures": {"review_id", "replaces", "box", "watts", "room_db", "source", "said_on", "written_at"},
	"photos":          {"review_id", "about", "name", "media_type", "taken_at", "content"},
	"letters":         {"review_id", "replaces", "kind", "sender", "name", "said_on", "about", "body", "may_print", "serial", "date_code", "written_at"},
	"stacks":          {"taken_at", "measured_on", "parts", "found", "evidence"},
	"comparisons":     {"title", "frozen_at", "sha256", "page"},
	"baselines":       {"taken_at", "measured_on", "meters", "rows"},
	"rule_books":      {"book_id", "what", "content", "written_at"},
}

// inBytes are the columns that are summed as they are; their own sums go into that of the row.
var inBytes = []string{"blob", "packed", "original", "document", "page", "content of photos"}

// factSum is the sum of a row of a table, in SQL: over the sums of its columns, so that no
// column runs into the next. Times are in UTC whatever the session's zone.
func factSum(table string) string {
	parts := make([]string, len(summed[table]))
	for i, column := range summed[table] {
		bytes := column
		switch {
		case strings.HasSuffix(column, "_at"):
			bytes = fmt.Sprintf("convert_to(to_char(%s AT TIME ZONE 'UTC', 'YYYY-MM-DD HH24:MI:SS.US'), 'UTF8')", column)
		case !slices.Contains(inBytes, column) && !slices.Contains(inBytes, column+" of "+table):
			bytes = fmt.Sprintf("convert_to(%s::text, 'UTF8')", column)
		}
		parts[i] = fmt.Sprintf("coalesce(sha256(%s), ''::bytea)", bytes)
	}
	return "encode(sha256(" + strings.Join(parts, " || ") + "), 'hex')"
}

type linkRow struct {
	Seq     int64 `gorm:"primaryKey;autoIncrement:false"`
	Fact    string
	FactID  string
	FactSum string
	Sum     string
}

func (linkRow) TableName() string { return "chain" }

// link is the sum of a link: over the one before it and the fact.
func (l *linkRow) link(before string) string {
	sum := sha256.Sum256([]byte(strings.Join([]string{before, l.Fact, l.FactID, l.FactSum}, "\n")))
	return hex.EncodeToString(sum[:])
}

// head is the last link; its Seq is -1 where there is none.
func head(db *gorm.DB) (linkRow, error) {
	var out linkRow
	found := db.Order("seq DESC").Limit(1).Find(&out)
	if found.RowsAffected == 0 {
		out.Seq = -1
	}
	return out, found.Error
}

// chainLock is held by who adds to the chain, until the transaction ends: one after another.
const chainLock = 7373

// chained adds facts that were just written in this transaction to the chain.
func chained(tx *gorm.DB, table string, ids ...string) error {
	if err := tx.Exec("SELECT pg_advisory_xact_lock(?)", chainLock).Error; err != nil {
		return err
	}
	last, err := head(tx)
	if err != nil {
		return err
	}
	for _, id := range ids {
		next := linkRow{Seq: last.Seq + 1, Fact: table, FactID: id}
		if err := tx.Raw("SELECT "+factSum(table)+" FROM "+table+" WHERE id = ?", id).Scan(&next.FactSum).Error; err != nil {
			return err
		}
		next.Sum = next.link(last.Sum)
		if err := tx.Create(&next).Error; err != nil {
			return err
		}
		last = next
	}
	return nil
}

// nobody is the fact of link 0, which says that all that is older is in the chain.
const nobody = "00000000-0000-0000-0000-000000000000"

// chainOlder begins the chain of a database that has none: link 0, and every fact there is.
func (s *Store) chainOlder(ctx context.Context) error {
	return s.db.WithContext(ctx).Transaction(func(tx *gorm.DB) error {
		if err := tx.Exec("SELECT pg_advisory_xact_lock(?)", chainLock).Error; err != nil {
			return err
		}
		last, err := head(tx)
		if err != nil || last.Seq >= 0 {
			return err
		}
		first := linkRow{Fact: "begin", FactID: nobody}
		first.Sum = first.link("")
		if err := tx.Create(&first).Error; err != nil {
			return err
		}
		for _, table := range slices.Sorted(maps.Keys(summed)) {
			var ids []string
			if err := tx.Table(table).Order("id").Pluck("id", &ids).Error; err != nil {
				return err
			}
			if err := chained(tx, table, ids...); err != nil {
				return err
			}
		}
		return nil
	})
}

// Head names the last link of the chain, to be kept elsewhere: its number and its sum.
func (s *Store) Head(ctx context.Context) (string, error) {
	last, err := head(s.db.WithContext(ctx))
	return last.String(), err
}

// String is a link as it is written down: 41:6f1c….
func (l linkRow) String() string { return fmt.Sprintf("%d:%s", l.Seq, l.Sum) }

// ErrNoChain is a database of an older version, whose facts are not chained yet.
var ErrNoChain = errors.New("this database is of a version before facts were chained: start Tall Oak on it once, and verify then")

// VerifyChain says what of the facts does not fit together: links that are missing or do not
// follow from those before them, facts that were changed, taken out or slipped in, triggers
// that are off. Kept is a head that was noted before; empty where there is none. Links is how
// many there are.
func (s *Store) VerifyChain(ctx context.Context, kept string) (wrong []string, links int, err error) {
	db := s.db.WithContext(ctx)
	if !db.Migrator().HasTable("chain") {
		return nil, 0, ErrNoChain
	}
	sums := map[string]map[string]string{}
	for table := range summed {
		if sums[table], err = factSums(db, table); err != nil {
			return nil, 0, err
		}
	}
	rows, err := db.Model(&linkRow{}).Order("seq").Rows()
	if err != nil {
		return nil, 0, err
	}
	defer rows.Close()
	say := func(format string, args ...any) { wrong = append(wrong, fmt.Sprintf(format, args...)) }
	before, found := "", kept == ""
	for want := int64(0); rows.Next(); want++ {
		var l linkRow
		if err := db.ScanRows(rows, &l); err != nil {
			return nil, 0, err
		}
		links++
		if l.Seq != want {
			say("links %d to %d of the chain are missing", want, l.Seq-1)
			want = l.Seq
		} else if l.Sum != l.link(before) {
			say("link %d of the chain does not follow from the one before it", l.Seq)
		}
		before = l.Sum
		found = found || l.String() == kept
		if l.FactID == nobody {
			continue
		}
		switch now, there := sums[l.Fact][l.FactID]; {
		case !there:
			say("%s %s is missing: it was written as link %d", l.Fact, l.FactID, l.Seq)
		case now != l.FactSum:
			say("%s %s was changed since it was written as link %d", l.Fact, l.FactID, l.Seq)
		}
		delete(sums[l.Fact], l.FactID)
	}
	if err := rows.Err(); err != nil {
		return nil, 0, err
	}
	if links == 0 {
		say("there is no chain: its links were taken out")
	} else if !found {
		say("the head that was kept, %s, is not in the chain", kept)
	}
	for _, table := range slices.Sorted(maps.Keys(sums)) {
		for _, id := range slices.Sorted(maps.Keys(sums[table])) {
			say("%s %s was slipped in: it is in no link of the chain", table, id)
		}
	}
	off, err := guardsOff(db)
	for _, o := range off {
		say("%s", o)
	}
	return wrong, links, err
}

func factSums(db *gorm.DB, table string) (map[string]string, error) {
	var rows []struct{ ID, Sum string }
	err := db.Raw("SELECT id, " + factSum(table) + " AS sum FROM " + table).Scan(&rows).Error
	out := make(map[string]string, len(rows))
	for _, r := range rows {
		out[r.ID] = r.Sum
	}
	return out, err
}

// guardsOff says which tables can be changed or emptied at present.
func guardsOff(db *gorm.DB) (out []string, err error) {
	var on []struct {
		Table string
		Row   bool
	}
	// Bit 0 of tgtype says for each row, 3 on delete, 4 on update, 5 on truncate.
	err = db.Raw(`SELECT c.relname AS table, t.tgtype & 1 = 1 AS row FROM pg_trigger t JOIN pg_class c ON c.oid = t.tgrelid JOIN pg_proc p ON p.oid = t.tgfoid
		WHERE p.proname = 'refuse_change' AND t.tgenabled IN ('O', 'A') AND (t.tgtype & 25 = 25 OR t.tgtype & 33 = 32) AND p.prosrc LIKE '%RAISE EXCEPTION%'`).Scan(&on).Error
	for _, table := range append(slices.Sorted(maps.Keys(summed)), "chain") {
		for row, what := range map[bool]string{true: "changed", false: "emptied"} {
			if !slices.ContainsFunc(on, func(t struct {
				Table string
				Row   bool
			}) bool {
				return t.Table == table && t.Row == row
			}) {
				out = append(out, fmt.Sprintf("%s can be %s: its trigger is off or gone", table, what))
			}
		}
	}
	slices.Sort(out)
	return out, err
}
