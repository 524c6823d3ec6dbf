package stack

import (
	"context"
	"encoding/binary"
	"reflect"
	"sync"
	"sync/atomic"
)

// Work is what one request may still do, counted in steps of the search and not
// in time, so that it comes to the same on every machine; a client that leaves
// ends it. It is safe for concurrent use. The nil Work has no end.
type Work struct {
	ctx    context.Context
	most   int64
	left   atomic.Int64
	cut    atomic.Bool
	solved *Answers // nil: nothing is remembered
}

// NewWork is a request's work, of so many steps.
func NewWork(ctx context.Context, steps int) *Work {
	w := &Work{ctx: ctx, most: int64(steps)}
	w.left.Store(w.most)
	return w
}

// Remembering makes it remember what it has solved, and take what others have: a
// question that judges the same bolts again, with the arms elsewhere, solves them once.
func (w *Work) Remembering(answers *Answers) *Work {
	w.solved = answers
	return w
}

// Answers are what has been solved, each by all that it follows from. They take so many
// bytes at the most, and are all forgotten when there is no more room. They are safe for
// concurrent use, and must not be changed.
type Answers struct {
	most   int
	mu     sync.Mutex
	solved map[string]Answer
	size   int
}

// NewAnswers are none yet, with room for so many bytes.
func NewAnswers(most int) *Answers { return &Answers{most: most, solved: map[string]Answer{}} }

// answerSize is about what an answer takes beside its key, in bytes.
const answerSize = 1500

func (a *Answers) get(key []byte) (Answer, bool) {
	a.mu.Lock()
	defer a.mu.Unlock()
	answer, known := a.solved[string(key)]
	return answer, known
}

func (a *Answers) put(key []byte, answer Answer) {
	a.mu.Lock()
	defer a.mu.Unlock()
	if a.size += len(key) + answerSize; a.size > a.most {
		a.solved, a.size = map[string]Answer{}, len(key)+answerSize
	}
	a.solved[string(key)] = answer
}

// Spend takes steps away; false when there are none left, or nobody waits for the
// answer any more. What would come next is to be left out then.
func (w *Work) Spend(steps int) bool {
	if w == nil {
		return true
	}
	if w.left.Add(-int64(steps)) < 0 || w.ctx.Err() != nil {
		w.cut.Store(true)
		return false
	}
	return true
}

// Gone says that nobody waits for the answer any more.
func (w *Work) Gone() bool { return w != nil && w.ctx.Err() != nil }

// Exhausted says whether something was left out.
func (w *Work) Exhausted() bool { return w != nil && w.cut.Load() }

// Spent is how many steps were taken.
func (w *Work) Spent() int {
	if w == nil {
		return 0
	}
	return int(w.most - w.left.Load())
}

// limit is how many steps a search may take that has its own limit.
func (w *Work) limit(own int) int {
	if w == nil {
		return own
	}
	return int(max(0, min(int64(own), w.left.Load())))
}

// solve solves a problem, unless it has been solved before.
func (w *Work) solve(p *Problem) Answer {
	if w == nil || w.solved == nil {
		return p.solve(mostEffort, p.stock)
	}
	key := p.key()
	if a, known := w.solved.get(key); known {
		return a
	}
	a := p.solve(mostEffort, p.stock)
	if !w.Exhausted() { // else it may not be all of it
		w.solved.put(key, a)
	}
	return a
}

// key holds everything that an answer follows from.
func (p *Problem) key() []byte {
	f := BoltLayout{Thread: p.Thread, Groups: p.Groups, Corners: p.Corners, OwnParts: p.OwnParts}
	room := p.HeadRoom.Value
	if !p.HeadRoom.Known {
		room = -1
	}
	key := appendLengths(f.key(), p.PlateThickness, p.Slot, room)
	key = appendItems(key, p.Kit, p.Thread)
	return appendValue(key, reflect.ValueOf(&p.Policy).Elem())
}

// appendValue writes every field of a value, whichever it has: nothing that an answer
// follows from can be forgotten.
func appendValue(b []byte, v reflect.Value) []byte {
	switch v.Kind() {
	case reflect.Struct:
		for i := range v.NumField() {
			b = appendValue(b, v.Field(i))
		}
	case reflect.Slice:
		b = binary.AppendVarint(b, int64(v.Len()))
		for i := range v.Len() {
			b = appendValue(b, v.Index(i))
		}
	case reflect.String:
		b = append(append(b, v.String()...), 0)
	case reflect.Bool:
		b = append(b, map[bool]byte{true: 1}[v.Bool()])
	case reflect.Int, reflect.Int32, reflect.Int64:
		b = binary.AppendVarint(b, v.Int())
	default:
		panic("stack: no key of a " + v.Type().String()) // a mistake in the policy's fields
	}
	return b
}
