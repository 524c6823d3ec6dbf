package main

import (
	"time"

	"github.com/jmoiron/sqlx"
	_ "modernc.org/sqlite" // the driver
)

// The five rules as tables and a query, in nanometres and micrograms.
const tables = `
CREATE TABLE display (n INTEGER PRIMARY KEY, width INT, height INT, thread INT, nominal INT, depth INT, mass INT, diagonal INT);
CREATE TABLE bracket (n INTEGER PRIMARY KEY, width_min INT, width_max INT, slack INT, rated INT, diagonal_max INT, plate INT, slot INT);
CREATE TABLE slot (bracket INT, a INT, b INT);
CREATE TABLE takes (bracket INT, thread INT, PRIMARY KEY (bracket, thread)) WITHOUT ROWID;
CREATE TABLE bolt (bracket INT, thread INT, length INT);
CREATE TABLE washer (bracket INT, thread INT, thick INT, outer INT, count INT);
CREATE INDEX slot_of ON slot (bracket);
CREATE INDEX bolt_of ON bolt (bracket, thread);
CREATE INDEX washer_of ON washer (bracket, thread);`

const query = `
SELECT d.n AS display, b.n AS bracket,
       d.width BETWEEN b.width_min AND min(b.width_max, b.slack)
   AND d.mass <= b.rated
   AND d.diagonal <= b.diagonal_max
   AND EXISTS (SELECT 1 FROM takes t WHERE t.bracket = b.n AND t.thread = d.thread)
   AND EXISTS (SELECT 1 FROM slot p, slot q WHERE p.bracket = b.n AND q.bracket = b.n AND p.a <= q.b - d.height AND p.b >= q.a - d.height)
   AND EXISTS (SELECT 1 FROM washer w, bolt l, (SELECT 1 AS n UNION ALL SELECT 2 UNION ALL SELECT 3)
               WHERE w.bracket = b.n AND w.thread = d.thread AND l.bracket = b.n AND l.thread = d.thread
                 AND w.outer >= b.slot + 3000000 AND w.count >= 4 * n
                 AND l.length - n * w.thick - b.plate BETWEEN d.nominal AND d.depth - 1000000) AS taken
FROM display d CROSS JOIN bracket b`

func byQuery(s *scenario) (timed, error) {
	t := timed{name: "SQLite query, five rules", pairs: len(s.displays) * len(s.brackets)}
	db, err := sqlx.Open("sqlite", ":memory:")
	if err != nil {
		return t, err
	}
	defer db.Close()
	db.SetMaxOpenConns(1)
	if _, err := db.Exec(tables); err != nil {
		return t, err
	}
	tx := db.MustBegin()
	for n, d := range s.displays {
		p := d.Patterns[0]
		tx.MustExec(`INSERT INTO display VALUES (?, ?, ?, ?, ?, ?, ?, ?)`, n, int64(p.Width), int64(p.Height), int(p.Thread),
			int64(p.Thread.Standard().Nominal),
			int64(p.Holes[0].ThreadDepth.Length), int64(d.Mass.Value), int64(d.Diagonal.Value))
	}
	for n, b := range s.brackets {
		i := b.Interface
		tx.MustExec(`INSERT INTO bracket VALUES (?, ?, ?, ?, ?, ?, ?, ?)`, n, int64(i.WidthMin.Value), int64(i.WidthMax.Value),
			int64(i.RailWidth.Value-i.ArmWidth),
			int64(b.RatedLoad.Value), int64(b.DiagonalMax.Value), int64(b.PlateThickness), int64(b.Slot()))
		for _, x := range i.Slots {
			tx.MustExec(`INSERT INTO slot VALUES (?, ?, ?)`, n, int64(x.Min), int64(x.Max))
		}
		for _, x := range b.Threads {
			tx.MustExec(`INSERT INTO takes VALUES (?, ?)`, n, int(x))
		}
		for _, x := range b.Kit {
			if x.Kind == "bolt" {
				tx.MustExec(`INSERT INTO bolt VALUES (?, ?, ?)`, n, int(x.Thread), int64(x.Length))
			} else {
				tx.MustExec(`INSERT INTO washer VALUES (?, ?, ?, ?, ?)`, n, int(x.Thread), int64(x.Thickness), int64(x.Outer), x.Count)
			}
		}
	}
	if err := tx.Commit(); err != nil {
		return t, err
	}
	t.takes = make([][]bool, len(s.displays))
	for i := range t.takes {
		t.takes[i] = make([]bool, len(s.brackets))
	}
	start := time.Now()
	rows, err := db.Query(query)
	if err != nil {
		return t, err
	}
	defer rows.Close()
	for rows.Next() {
		var display, bracket int
		var taken bool
		if err := rows.Scan(&display, &bracket, &taken); err != nil {
			return t, err
		}
		t.takes[display][bracket] = taken
	}
	t.took = time.Since(start)
	return t, rows.Err()
}
