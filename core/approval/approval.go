// Package approval is the life of an approval: what may be done in which state and by whom, the
// fingerprint of what it freezes, and how a result differs from the one that was approved.
//
// An approval freezes what a pairing was computed from, as one JSON document, and what came out. The
// document has a fingerprint ([Fingerprint]) that anybody can compute from it. When the catalogue, the
// policy or the program changes, the pairing is computed again: the same result keeps the approval,
// another one ([Differences]) makes it stale.
package approval

import (
	"fmt"
	"slices"
)

// State is where an approval is in its life.
type State string

// The states. Nothing comes back from superseded or withdrawn, and what is approved is never edited.
const (
	Draft      State = "draft"
	InReview   State = "in_review"
	Approved   State = "approved"
	Superseded State = "superseded"
	Withdrawn  State = "withdrawn"
)

// Act is what is done with an approval.
type Act string

// The acts. Supersede is done by the approval of a later one for the same thing.
const (
	Submit    Act = "submit"
	SendBack  Act = "send_back"
	Approve   Act = "approve"
	Withdraw  Act = "withdraw"
	Supersede Act = "supersede"
	Issue     Act = "issue" // of a document, which leaves it approved
)

// moves are what may be done in each state, and where it leads.
var moves = map[State]map[Act]State{
	Draft:    {Submit: InReview, Withdraw: Withdrawn},
	InReview: {SendBack: Draft, Approve: Approved, Withdraw: Withdrawn},
	Approved: {Withdraw: Withdrawn, Supersede: Superseded},
}

// NotNow says that something cannot be done in a state.
type NotNow struct {
	Act   Act
	State State
}

func (n *NotNow) Error() string {
	return fmt.Sprintf("it is %s: it cannot be %s", words[string(n.State)], words[string(n.Act)])
}

var words = map[string]string{"in_review": "in review", "draft": "a draft", "approved": "approved", "superseded": "superseded",
	"withdrawn": "withdrawn", "submit": "sent for review", "send_back": "sent back", "approve": "approved", "withdraw": "withdrawn",
	"supersede": "superseded", "issue": "issued"}

// After is the state after something is done.
func (s State) After(a Act) (State, error) {
	if next, ok := moves[s][a]; ok {
		return next, nil
	}
	return s, &NotNow{a, s}
}

// Own says that somebody decides on what they prepared.
type Own struct{}

func (Own) Error() string { return "who prepared it does not approve it" }

// Decides says whether somebody may approve what those people, by the numbers of their accounts, have prepared: everybody who ever
// sent it for review counts.
func Decides(who int64, preparers []int64) error {
	if who <= 0 || slices.Contains(preparers, who) {
		return Own{}
	}
	return nil
}
