package stack

// list is a group's candidates, in order of preference.
type list struct {
	all    []candidate
	ok     int // how many of them are ok
	effort int // that finding them took
}

// lists is a worker's cache of the lists of a stock, by everything else that they depend on.
type lists struct {
	room   []candidate // the lists' candidates, one list after another
	listed map[listed]list
}

// maxCandidates is how many candidates of a stock are cached, of 72 bytes each.
const maxCandidates = 50_000

// forget empties the cache; its memory is reused.
func (m *lists) forget() {
	if m.listed == nil {
		m.listed = map[listed]list{}
	}
	clear(m.listed)
	m.room = m.room[:0]
}

// listed is what a list depends on besides its stock: the group's figures, what the arms pass over, the number of its holes
// and of the holes of all groups.
type listed struct {
	figures    figures
	under      Under
	holes, all int
}

func (s *searcher) listed(group int) listed {
	g := &s.problem.Groups[group]
	return listed{g.figures(), s.problem.Under, len(g.Holes), s.holes}
}

// list returns the candidates of a group, from the cache if they are there. Either way it counts the same
// effort, so that an answer does not depend on earlier ones.
func (s *searcher) list(index int) list {
	key := s.listed(index)
	if s.lists != nil {
		if l, known := s.lists.listed[key]; known {
			s.effort -= l.effort
			return l
		}
	}
	l, before := &s.room[index], s.effort
	l.all, l.ok = s.sort(s.candidates(l.all[:0], index)), 0
	for i := range l.all {
		if l.all[i].status == OK {
			l.ok++
		}
	}
	l.effort = before - s.effort
	if m := s.lists; m != nil && !s.over() && len(m.room) < maxCandidates {
		from := len(m.room)
		m.room = append(m.room, l.all...)
		m.listed[key] = list{m.room[from:len(m.room):len(m.room)], l.ok, l.effort}
	}
	return *l
}
