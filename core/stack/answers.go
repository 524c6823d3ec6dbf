package stack

import (
	"encoding/binary"
	"reflect"
	"sync"
)

// Answers caches answers of single problems under any policy, each by everything that it depends on. It takes
// at most a given number of bytes, and is emptied when it is full. It is safe for
// concurrent use; answers in it must not be changed. For many displays on many brackets there is [Cache].
type Answers struct {
	most   int
	mu     sync.Mutex
	solved map[string]Answer
	size   int
}

// NewAnswers returns an empty cache of at most so many bytes.
func NewAnswers(most int) *Answers { return &Answers{most: most, solved: map[string]Answer{}} }

// answerSize is about the size of an answer without its key, in bytes.
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

// key encodes everything that an answer depends on.
func (p *Problem) key() []byte {
	f := BoltLayout{Thread: p.Thread, Groups: p.Groups, Corners: p.Corners, OwnParts: p.OwnParts, Under: p.Under}
	room := p.HeadRoom.Value
	if !p.HeadRoom.Known {
		room = -1
	}
	key := appendLengths(f.key(), p.PlateThickness, p.Slot, room)
	key = appendItems(key, p.Kit, p.Thread)
	return appendValue(key, reflect.ValueOf(&p.Policy).Elem())
}

// appendValue writes every field of a value, so that no field that an answer depends on
// can be forgotten.
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
