package quantity

// Reader is who reads sentences: in a system of units and a language, nil for English.
type Reader struct {
	Units    Units
	Language *Language
}

// Code is the code of the reader's language.
func (r Reader) Code() string {
	if r.Language == nil {
		return "en"
	}
	return r.Language.Code
}

// Say is a sentence as the reader has it.
func (r Reader) Say(p Phrase) string { return p.For(r.Language).In(r.Units) }

// All are sentences as the reader has them, never nil.
func (r Reader) All(list []Phrase) []string {
	out := make([]string, 0, len(list))
	for _, p := range list {
		out = append(out, r.Say(p))
	}
	return out
}

// Words are words as the reader has them, never nil.
func (r Reader) Words(list []string) []string {
	out := make([]string, 0, len(list))
	for _, s := range list {
		out = append(out, r.Language.Words(s))
	}
	return out
}
