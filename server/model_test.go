package server

import (
	"context"
	"encoding/json"
	"fmt"
	"log/slog"
	"math/rand/v2"
	"net/http"
	"net/http/httptest"
	"os"
	"path/filepath"
	"slices"
	"strings"
	"sync"
	"sync/atomic"
	"testing"
	"time"

	"nexufix/app/people"
	"nexufix/app/review"
	"nexufix/core/approval"
	"nexufix/core/rights"
	"nexufix/seal"
	peopleroutes "nexufix/server/people"
	"nexufix/store"
)

// The model of rights and approvals: what the documents promise (docs/approval.md, docs/security.md), written once more and without
// anything of the server. Acts of many at once on many subjects are compared with it: what it allows is done in the end, what it forbids
// never.

// somebody is a person of the model, a token of theirs, or nobody.
type somebody struct {
	login    string
	role     rights.Role // of the account
	disabled bool
	id       int64
	cookie   *http.Cookie // nil: not signed in
	token    string       // of a script, in place of a cookie
	most     rights.Role  // of the token
	of       *somebody    // whose token it is
}

// can is the role that counts now.
func (p *somebody) can() rights.Role {
	switch {
	case p.of != nil && p.token != "" && !p.of.disabled:
		if p.most.May(p.of.role) {
			return p.of.role
		}
		return p.most
	case p.of == nil && p.cookie != nil && !p.disabled:
		return p.role
	}
	return rights.Nobody
}

// account is whose name an act is done in.
func (p *somebody) account() *somebody {
	if p.of != nil {
		return p.of
	}
	return p
}

// modelled is a subject: a job with a display of its own.
type modelled struct {
	mu       sync.Mutex
	job      string
	display  map[string]any
	revision int
	mass     int // of the display now, in tenths of a kilogram
	open     *modelApproval
	inForce  *modelApproval
	codes    map[string]*modelApproval
	prepared map[int64]bool // who sent it or changed it since it was last approved
}

type modelApproval struct {
	id       int64
	state    approval.State
	mass     int // when it was sent
	sender   int64
	restored bool
}

type model struct {
	*desk
	mu       sync.RWMutex // accounts, restarts and restores; whatever else happens reads it
	all      []*somebody
	stranger *somebody
	subjects []*modelled
	stop     func()
	acts     atomic.Int64
	done     map[string]*atomic.Int64
	key      *seal.Key
}

const modelPassword = "seven loaves on a rail"

func newModel(t *testing.T, subjects int) *model {
	d := newDesk(t)
	m := &model{desk: d, stranger: &somebody{login: "nobody"}, done: map[string]*atomic.Int64{}}
	for _, p := range []somebody{{login: "ada", role: people.Administrator}, {login: "tomas", role: people.Approver},
		{login: "ivor", role: people.Approver}, {login: "mira", role: people.Engineer}, {login: "nell", role: people.Engineer},
		{login: "jun", role: people.Reader}} {
		n := people.NewPerson{Identity: people.Identity{Login: p.login, Name: p.login, Password: modelPassword}, Role: p.role}
		made, err := n.Add(t.Context(), d.srv.store, desk1, false)
		if err != nil {
			t.Fatal(err)
		}
		p.id = made.ID
		m.all = append(m.all, &p)
	}
	m.all = append(m.all, &somebody{login: "nell's script", of: m.all[4], most: people.Engineer},
		&somebody{login: "tomas's script", of: m.all[1], most: people.Approver})
	all, err := d.srv.store.Catalogue(t.Context())
	if err != nil {
		t.Fatal(err)
	}
	job := *all.Job("engine-hall-timetable")
	for n := range subjects {
		var shown struct{ Display map[string]any }
		if err := json.Unmarshal(d.srv2item("orrin-timetable-37"), &shown); err != nil {
			t.Fatal(err)
		}
		s := &modelled{job: fmt.Sprintf("job-%d", n), display: shown.Display, codes: map[string]*modelApproval{}, prepared: map[int64]bool{}}
		s.display["id"], s.display["model"] = fmt.Sprintf("display-%d", n), fmt.Sprintf("Model %d", n)
		s.mass = 80
		m.write(s, 80)
		j := job
		j.ID, j.Display = s.job, s.display["id"].(string)
		item, err := store.JobItem(&j)
		if err == nil {
			_, err = d.srv.store.Save(t.Context(), store.Author{Who: "test"}, item, 0)
		}
		if err != nil {
			t.Fatal(err)
		}
		m.subjects = append(m.subjects, s)
	}
	m.run()
	m.tokens()
	return m
}

var desk1 = people.Person{Name: "test", Role: people.Administrator}

// srv2item is a display as the server gives it, before anybody signs in: the catalogue's own.
func (d *desk) srv2item(id string) []byte {
	i, err := d.srv.store.Item(d.t.Context(), "display", id)
	if err != nil {
		d.t.Fatal(err)
	}
	return []byte(`{"display": ` + i.Doc + `}`)
}

// write saves a subject's display with a mass, as the program itself.
func (m *model) write(s *modelled, mass int) {
	s.display["mass_kg"] = float64(mass) / 10
	raw, err := json.Marshal(s.display)
	if err != nil {
		m.t.Fatal(err)
	}
	if s.revision, err = m.srv.store.Save(m.t.Context(), store.Author{Who: "test"},
		store.Item{Kind: "display", ID: s.display["id"].(string), Sort: s.job, Doc: string(raw)}, s.revision); err != nil {
		m.t.Fatal(err)
	}
}

// run judges approvals again in the background, as a server does.
func (m *model) run() {
	ctx, cancel := context.WithCancel(context.Background())
	ended := make(chan struct{})
	go func() { defer close(ended); m.srv.reviews.Run(ctx) }()
	m.stop = func() { cancel(); <-ended }
}

// tokens gives the scripts new ones.
func (m *model) tokens() {
	for _, p := range m.all {
		if p.of == nil || p.of.disabled {
			continue
		}
		text, err := (&people.Token{Login: p.of.login, Role: p.most, Days: 1}).Add(context.Background(), m.srv.store, desk1)
		if err != nil {
			m.t.Error(err)
		}
		p.token = text
	}
}

// ask sends a request of somebody's.
func (m *model) ask(p *somebody, method, path string, body any) answer {
	raw := []byte{}
	if body != nil {
		var err error
		if raw, err = json.Marshal(body); err != nil {
			m.t.Error(err)
		}
	}
	r := httptest.NewRequest(method, deskAt+path, strings.NewReader(string(raw)))
	r.Header.Set("Content-Type", "application/json")
	if p.token != "" {
		r.Header.Set("Authorization", "Bearer "+p.token)
	} else if p.cookie != nil {
		r.AddCookie(p.cookie)
	}
	w := httptest.NewRecorder()
	r.RemoteAddr = "127.0.0.1:40000"
	n := m.acts.Add(1)
	r.Header.Set("X-Forwarded-For", fmt.Sprintf("10.%d.%d.%d", n>>16&255, n>>8&255, n&255)) // nobody holds others back by their address
	m.srv.ServeHTTP(w, r)
	return answer{w.Result(), w.Body.Bytes()}
}

// expect does an act until it is answered for good, and compares: allowed, it is done; not allowed, it never is.
func (m *model) expect(what string, allowed bool, do func() answer) (a answer, did bool) {
	for n := 0; ; n++ {
		a = do()
		did = a.StatusCode < 300
		again := a.StatusCode == 429 || a.StatusCode == 503 || allowed && a.StatusCode == 409 // somebody else's change came between
		if !again || n == 200 {
			break
		}
		time.Sleep(5 * time.Millisecond)
	}
	if did != allowed || a.StatusCode >= 500 && a.StatusCode != 503 || a.StatusCode == 400 {
		m.t.Errorf("%s: allowed %v, answered %d %.200s", what, allowed, a.StatusCode, a.body)
	}
	m.done[what[:strings.Index(what+" ", " ")]].Add(1)
	return a, did
}

func (m *model) holds(s *modelled, a *modelApproval) bool {
	return a.state == approval.Approved && a.mass == s.mass && !a.restored
}

// about is one random act on a subject.
func (m *model) about(r *rand.Rand, s *modelled, p *somebody) {
	s.mu.Lock()
	defer s.mu.Unlock()
	can, script := p.can(), p.token != ""
	engineer, approver := can.May(people.Engineer), can.May(people.Approver)
	me := p.account().id
	name := func(what string) string { return fmt.Sprintf("%s of %s by %s (%s)", what, s.job, p.login, can) }
	of := s.open
	if of == nil || r.IntN(3) == 0 && s.inForce != nil {
		of = s.inForce
	}
	switch k := r.IntN(100); {
	case k < 12: // change a figure
		mass := 80 + 5*r.IntN(3)
		old := r.IntN(6) == 0
		s.display["mass_kg"] = float64(mass) / 10
		base := s.revision
		if old {
			base++
		}
		body := map[string]any{"revision": base, "display": s.display}
		a, did := m.expect(name("edit"), engineer && !old, func() answer {
			return m.ask(p, http.MethodPut, "/api/items/displays/"+s.display["id"].(string), body)
		})
		if did {
			var saved struct{ Revision int }
			if err := json.Unmarshal(a.body, &saved); err != nil {
				m.t.Error(err)
			}
			if saved.Revision > s.revision {
				s.prepared[me] = true
			} else if s.mass != mass {
				m.t.Error(name("edit") + ": no revision of it")
			}
			s.mass, s.revision = mass, saved.Revision
		}
	case k < 30: // send
		a, did := m.expect(name("send"), engineer && (s.open == nil || s.open.state == approval.Draft), func() answer {
			return m.ask(p, http.MethodPost, "/api/approvals", map[string]any{"subject": map[string]any{"job": s.job}})
		})
		if did {
			var line review.ApprovalLine
			if err := json.Unmarshal(a.body, &line); err != nil {
				m.t.Error(err)
			}
			s.open = &modelApproval{id: line.ID, state: approval.InReview, mass: s.mass, sender: me}
			s.prepared[me] = true
		}
	case k < 62 && of != nil: // decide
		act := []approval.Act{approval.Approve, approval.Approve, approval.Approve, approval.SendBack, approval.Withdraw,
			approval.Confirm}[r.IntN(6)]
		allowed := false
		switch open := of == s.open; act {
		case approval.Approve:
			allowed = of.state == approval.InReview && approver && !script && !s.prepared[me] && of.mass == s.mass
		case approval.SendBack:
			allowed = of.state == approval.InReview && (approver || engineer && s.prepared[me])
		case approval.Withdraw:
			allowed = open && (approver || engineer && s.prepared[me]) || !open && approver
		case approval.Confirm:
			allowed = of.state == approval.Approved && of.restored && approver && !script && me != of.sender
		}
		if _, did := m.expect(name(string(act)), allowed, func() answer {
			return m.ask(p, http.MethodPost, fmt.Sprintf("/api/approvals/%d/decide", of.id),
				map[string]any{"version": m.version(of.id), "act": act, "text": "so"})
		}); did {
			m.decided(s, of, act)
		}
	case k < 68 && of != nil: // issue
		allowed := engineer && m.holds(s, of)
		a, did := m.expect(name("issue"), allowed, func() answer {
			return m.ask(p, http.MethodPost, fmt.Sprintf("/api/approvals/%d/issue", of.id), map[string]any{"what": "card", "receiver": "us"})
		})
		if did {
			var line review.IssuedLine
			if err := json.Unmarshal(a.body, &line); err != nil {
				m.t.Error(err)
			}
			if len(s.codes) < 40 {
				s.codes[line.Code] = of
			}
		}
	case k < 76: // ask about a code
		for code, a := range s.codes {
			want := map[approval.State]string{approval.Superseded: "Superseded", approval.Withdrawn: "Withdrawn"}[a.state]
			if a.state == approval.Approved {
				want = map[bool]string{true: "Current", false: "In doubt"}[m.holds(s, a)]
			}
			var got answer
			m.expect(name("status"), true, func() answer { got = m.ask(p, http.MethodGet, "/v/"+code, nil); return got })
			if !strings.Contains(string(got.body), ">"+want+"<") && !strings.Contains(string(got.body), ">"+want+" by ") {
				m.t.Errorf("%s: not %s but %s", name("status"), want, got.body[max(0, len(got.body)-400):])
			}
			break
		}
	case k < 80 && of != nil:
		a := m.ask(p, http.MethodPost, fmt.Sprintf("/api/approvals/%d/comments", of.id), map[string]any{"text": "well"})
		held := a.StatusCode == 429 || a.StatusCode == 503 // they have said much, or much is being done
		if did := a.StatusCode == 204; did != engineer && !held || did && !engineer || a.StatusCode >= 500 && !held {
			m.t.Errorf("%s: %d %s", name("remark"), a.StatusCode, a.body)
		}
		m.done["remark"].Add(1)
	case k < 88 && of != nil:
		m.expect(name("look"), can != rights.Nobody, func() answer {
			return m.ask(p, http.MethodGet, fmt.Sprintf("/api/approvals/%d", of.id), nil)
		})
	default:
		path, need := m.somewhere(r, s)
		m.expect(name("read"), can.May(need), func() answer { return m.ask(p, http.MethodGet, path, nil) })
	}
}

// decided is what a decision does.
func (m *model) decided(s *modelled, of *modelApproval, act approval.Act) {
	switch act {
	case approval.Approve:
		if s.inForce != nil {
			s.inForce.state = approval.Superseded
		}
		of.state, s.inForce, s.open, s.prepared = approval.Approved, of, nil, map[int64]bool{}
	case approval.SendBack:
		of.state = approval.Draft
	case approval.Withdraw:
		of.state = approval.Withdrawn
		if of == s.open {
			s.open = nil
		} else {
			s.inForce = nil
		}
	case approval.Confirm:
		of.restored = false
	}
}

// somewhere is an address to be read, and the role that it takes.
func (m *model) somewhere(r *rand.Rand, s *modelled) (string, rights.Role) {
	all := []struct {
		path string
		need rights.Role
	}{{"/api/people", people.Administrator}, {"/api/audit", people.Administrator}, {"/api/audit/export?kind=restores", people.Administrator},
		{"/api/displays?q=model", people.Reader}, {"/api/items/displays/" + s.display["id"].(string), people.Reader}, {"/api/desk",
			people.Reader},
		{"/api/policies", people.Reader}, {"/api/me", rights.Nobody}, {"/v/keys", rights.Nobody}, {"/api/openapi.json", people.Reader}}
	one := all[r.IntN(len(all))]
	return one.path, one.need
}

// version is an approval's, as the store has it.
func (m *model) version(id int64) int64 {
	a, err := m.srv.store.Approval(context.Background(), id)
	if err != nil {
		m.t.Error(err)
	}
	return max(a.Version, 1)
}

// account is one random act on an account, or at the door.
func (m *model) accountAct(r *rand.Rand, by, p *somebody) {
	m.mu.Lock()
	defer m.mu.Unlock()
	admin := by.can() == people.Administrator
	name := func(what string) string { return fmt.Sprintf("%s %s by %s (%s)", what, p.login, by.login, by.can()) }
	path := fmt.Sprintf("/api/people/%d", p.id)
	switch k := r.IntN(4); {
	case p.of != nil: // another token
		m.tokens()
	case by == m.stranger || by.login == p.login || k == 0: // sign in
		a := m.ask(m.stranger, http.MethodPost, "/api/sign-in", map[string]any{"login": p.login, "password": modelPassword})
		if (a.StatusCode == 200) == p.disabled && (p.disabled || a.StatusCode != 429) { // who is shut out tries, too
			m.t.Errorf("%s signs in, disabled %v: %d %s", p.login, p.disabled, a.StatusCode, a.body)
		}
		for _, c := range a.Cookies() {
			if c.Name == "nexufix" {
				p.cookie = c
			}
		}
	case p.login == "ada": // the last administrator
		m.expect(name("people"), false, func() answer { return m.ask(by, http.MethodPost, path, map[string]any{"role": "reader"}) })
	default:
		role, disabled := []rights.Role{people.Reader, people.Engineer, people.Approver}[r.IntN(3)], r.IntN(5) == 0
		if _, did := m.expect(name("people"), admin, func() answer {
			return m.ask(by, http.MethodPost, path, map[string]any{"role": role, "disabled": disabled})
		}); did {
			p.role, p.disabled, p.cookie = role, disabled, nil
			for _, script := range m.all {
				if script.of == p {
					script.token = ""
				}
			}
		}
	}
}

// TestModelOfRights runs random acts of six people, two scripts and a stranger against the model, many at once, with restarts, copies of
// the files as they are (as after a kill) and restores in between; in the long form (make soak) a million, at forty desks. At the end
// nobody has approved what they prepared, as the database's own events tell it.
func TestModelOfRights(t *testing.T) {
	desks := times(1, 40)
	acts, done := int64(0), map[string]int64{}
	for desk := range uint64(desks) {
		t.Run(fmt.Sprint("desk ", desk), func(t *testing.T) {
			m := newModel(t, times(12, 40))
			m.goOn(desk, int64(times(1_500, 25_000)), int64(times(6, 12)))
			acts += m.acts.Load()
			for what, n := range m.done {
				done[what] += n.Load()
			}
			t.Log(acts, "acts")
		})
		if t.Failed() {
			return
		}
	}
	for what, n := range done {
		if n == 0 {
			t.Errorf("nobody did %s", what)
		}
	}
	t.Log(acts, "acts at", desks, "desks:", done)
}

// goOn does so many acts, in parts, between which the server goes on in another way.
func (m *model) goOn(desk uint64, total, parts int64) {
	for _, what := range []string{"edit", "send", "approve", "send_back", "withdraw", "confirm", "issue", "status", "remark", "look", "read",
		"people"} {
		m.done[what] = &atomic.Int64{}
	}
	seed := rand.New(rand.NewPCG(28, desk))
	for part := range parts {
		for _, p := range m.all {
			m.accountAct(seed, m.stranger, p)
		}
		var all sync.WaitGroup
		for w := range uint64(times(4, 12)) {
			all.Go(func() {
				r := rand.New(rand.NewPCG(desk<<32+uint64(part), w))
				for m.acts.Load() < total*(part+1)/parts && !m.t.Failed() {
					p := m.all[r.IntN(len(m.all))]
					if r.IntN(20) == 0 {
						p = m.stranger
					}
					if r.IntN(150) == 0 {
						m.accountAct(r, p, m.all[r.IntN(len(m.all))])
						continue
					}
					m.mu.RLock()
					if p.cookie == nil && p.token == "" && p != m.stranger && r.IntN(4) == 0 {
						m.mu.RUnlock()
						m.accountAct(r, m.stranger, p)
						continue
					}
					m.about(r, m.subjects[r.IntN(len(m.subjects))], p)
					m.mu.RUnlock()
				}
			})
		}
		all.Wait()
		if m.t.Failed() {
			return
		}
		m.again(int(part) % 3)
	}
	for m.done["people"].Load() == 0 { // it comes by chance, and need not have come
		m.accountAct(seed, m.all[0], m.all[3])
	}
	m.stop()
	m.twoPeople()
}

// again goes on with the same data otherwise: in a server that was started again, on a copy of its files as they are, or on a machine on
// which a backup was restored.
func (m *model) again(how int) {
	m.stop()
	ctx := context.Background()
	file := filepath.Join(m.t.TempDir(), "nexufix.db")
	switch how {
	case 0:
		file = m.file
	case 1:
		for _, end := range []string{"", "-wal"} {
			raw, err := os.ReadFile(m.file + end)
			if err == nil {
				err = os.WriteFile(file+end, raw, 0o600)
			}
			if err != nil && !os.IsNotExist(err) {
				m.t.Fatal(err)
			}
		}
	case 2:
		if err := m.srv.store.Backup(ctx, file+".backup"); err != nil {
			m.t.Fatal(err)
		}
	}
	if err := m.srv.store.Close(); err != nil {
		m.t.Fatal(err)
	}
	st, err := store.Open(ctx, file)
	if err != nil {
		m.t.Fatal(err)
	}
	m.t.Cleanup(func() { st.Close() })
	if how == 2 {
		if err := st.RestoreFrom(ctx, file+".backup"); err != nil {
			m.t.Fatal(err)
		}
		for _, p := range m.all {
			p.cookie = nil
			if p.of != nil {
				p.token = ""
				continue
			}
			p.disabled = true
			in := people.Credentials{Login: p.login, Password: modelPassword}
			if _, entry, err := people.SignIn(ctx, st, in, nil); entry != people.Refused || err != nil {
				m.t.Errorf("%s signs in after a restore: %v", p.login, err)
			}
			is := false
			if _, err := (&people.PersonChange{Disabled: &is}).Change(ctx, st, desk1, p.id); err != nil {
				m.t.Fatal(err)
			}
			p.disabled = false
		}
		for _, s := range m.subjects {
			if s.inForce != nil {
				s.inForce.restored = true
			}
		}
	}
	m.file = file
	if m.key, err = seal.Load(filepath.Join(m.t.TempDir(), "keys")); err == nil {
		err = review.KnowKey(ctx, st, m.key)
	}
	if err != nil {
		m.t.Fatal(err)
	}
	hosts := Hosts{Loopback: true, Base: deskAt, Key: m.key}
	if m.srv, err = New(st, slog.New(slog.DiscardHandler), hosts, m.plots, peopleroutes.Options{}); err != nil {
		m.t.Fatal(err)
	}
	m.run()
}

// twoPeople reads from the database who approved what, and who had sent it or written what it rests on since the approval before.
func (m *model) twoPeople() {
	ctx := context.Background()
	approved := 0
	all, err := m.srv.store.Approvals(ctx)
	if err != nil {
		m.t.Fatal(err)
	}
	for _, s := range m.subjects {
		var events []store.ApprovalEvent
		for _, a := range all {
			if !strings.Contains(a.Subject, `"`+s.job+`"`) {
				continue
			}
			of, err := m.srv.store.ApprovalEvents(ctx, a.ID, 1_000_000)
			if err != nil {
				m.t.Fatal(err)
			}
			events = append(events, of...)
		}
		slices.SortFunc(events, func(a, b store.ApprovalEvent) int { return int(a.Seq - b.Seq) })
		history, err := m.srv.store.History(ctx, "display", s.display["id"].(string), 1_000_000, 0)
		if err != nil {
			m.t.Fatal(err)
		}
		since, sent := "", map[int64]bool{}
		for _, e := range events {
			switch e.What {
			case string(approval.Submit):
				sent[e.Person] = true
			case string(approval.Approve):
				approved++
				for _, h := range history {
					if h.At > since && h.At < e.At && h.Person.Int64 == e.Person {
						m.t.Errorf("%d approved what they wrote at %s", e.Person, h.At)
					}
				}
				if sent[e.Person] {
					m.t.Errorf("%d approved what they sent", e.Person)
				}
				since, sent = e.At, map[int64]bool{}
			}
		}
	}
	if approved == 0 {
		m.t.Error("nothing was approved")
	}
	if head, why, err := m.srv.store.CheckAudit(ctx); err != nil || why != "" {
		m.t.Errorf("the audit at %v: %s %v", head, why, err)
	}
}
