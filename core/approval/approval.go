// Package approval has the rules of approvals: which act is allowed in which state and to whom, the
// fingerprint of the frozen document, and how a result differs from the one that was approved.
//
// An approval freezes the inputs of a pairing, as one JSON document, and the result. The
// document has a fingerprint ([Fingerprint]) that anybody can compute from it. When the catalogue, the
// policy or the program changes, the pairing is computed again: the same result keeps the approval,
// another one ([Differences]) makes it stale.
package approval

import (
	"fmt"
)

// State is the state of an approval.
type State string

// The states. Superseded and withdrawn are final, and an approved document is never edited.
const (
	Draft      State = "draft"
	InReview   State = "in_review"
	Approved   State = "approved"
	Superseded State = "superseded"
	Withdrawn  State = "withdrawn"
)

// Act is an act on an approval.
type Act string

// The acts. Approving a later one of the same subject supersedes the earlier.
const (
	Submit    Act = "submit"
	SendBack  Act = "send_back"
	Approve   Act = "approve"
	Withdraw  Act = "withdraw"
	Supersede Act = "supersede"
	Issue     Act = "issue"   // of a document, which leaves it approved
	Confirm   Act = "confirm" // that one from a backup still holds
)

// moves are the acts allowed in each state, and the states they lead to.
var moves = map[State]map[Act]State{
	Draft:    {Submit: InReview, Withdraw: Withdrawn},
	InReview: {SendBack: Draft, Approve: Approved, Withdraw: Withdrawn},
	Approved: {Confirm: Approved, Withdraw: Withdrawn, Supersede: Superseded},
}

// NotNow is the error of an act that the state does not allow.
type NotNow struct {
	Act   Act
	State State
}

func (n *NotNow) Error() string {
	return fmt.Sprintf("it is %s: it cannot be %s", words[string(n.State)], words[string(n.Act)])
}

var words = map[string]string{"in_review": "in review", "draft": "a draft", "approved": "approved", "superseded": "superseded",
	"withdrawn": "withdrawn", "submit": "sent for review", "send_back": "sent back", "approve": "approved", "withdraw": "withdrawn",
	"supersede": "superseded", "issue": "issued", "confirm": "confirmed"}

// After is the state after an act.
func (s State) After(a Act) (State, error) {
	if next, ok := moves[s][a]; ok {
		return next, nil
	}
	return s, &NotNow{a, s}
}

// Own is the error of a person who decides about what they prepared.
type Own struct{}

func (Own) Error() string { return "who prepared it does not approve it" }
