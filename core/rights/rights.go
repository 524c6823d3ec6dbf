// Package rights says who may do what: one table, by act, role, state of an approval and who prepared it. The operations of the server, the
// use cases, the database's transactions, the pages and the documentation ask it.
package rights

import (
	"fmt"
	"slices"
	"strings"

	"nexufix/core/approval"
)

// Role is a set of permissions. Each role includes those before it.
type Role string

// The roles.
const (
	Nobody        Role = "" // who has not signed in
	Reader        Role = "reader"
	Engineer      Role = "engineer"
	Approver      Role = "approver"
	Administrator Role = "administrator"
)

// Roles lists the roles, the least first.
var Roles = []Role{Reader, Engineer, Approver, Administrator}

// May reports whether a role includes another.
func (r Role) May(need Role) bool {
	return need == Nobody || slices.Index(Roles, r) >= slices.Index(Roles, need) && slices.Contains(Roles, r)
}

// Act is something that somebody does.
type Act string

// The acts. Those on an approval have the names that its events have.
const (
	Enter    Act = "enter" // sign in, ask about a document's code
	Look     Act = "look"
	Tick     Act = "tick"
	Edit     Act = "edit"
	Policy   Act = "policy"
	Comment  Act = "comment"
	Submit       = Act(approval.Submit)
	SendBack     = Act(approval.SendBack)
	Approve      = Act(approval.Approve)
	Confirm      = Act(approval.Confirm)
	Withdraw     = Act(approval.Withdraw)
	Issue        = Act(approval.Issue)
	Write    Act = "write"
	Password Act = "password"
	People   Act = "people"
	Audit    Act = "audit"
)

// Rule is who may do an act.
type Rule struct {
	Act   Act
	Words string
	Role  Role             // the least role
	Own   Role             // the least of who prepared it; [Nobody]: they may not
	In    []approval.State // the states in which it may be done; nil: it has none
	Token bool             // with a token, too: nobody has to look
}

// Table lists all rules.
var Table = []Rule{
	{Act: Enter, Words: "sign in and out; ask whether a document is current", Role: Nobody, Token: true},
	{Act: Look, Words: "look at the catalogue, jobs, approvals and documents; judge, draw, export", Role: Reader, Own: Reader, Token: true},
	{Act: Tick, Words: "tick off steps at the wall", Role: Reader, Own: Reader, Token: true},
	{Act: Password, Words: "change one's own password, second factor and mail address; end one's own sessions and tokens", Role: Reader,
		Own: Reader},
	{Act: Edit, Words: "change the catalogue and jobs; import, merge, undo, restore a revision", Role: Engineer, Own: Engineer, Token: true},
	{Act: Comment, Words: "say something of an approval", Role: Engineer, Own: Engineer, Token: true},
	{Act: Submit, Words: "send for review", Role: Engineer, Own: Engineer, Token: true},
	{Act: SendBack, Words: "send back", Role: Approver, Own: Engineer, In: []approval.State{approval.InReview}, Token: true},
	{Act: Withdraw, Words: "withdraw what is not approved", Role: Approver, Own: Engineer,
		In: []approval.State{approval.Draft, approval.InReview}, Token: true},
	{Act: Withdraw, Words: "withdraw what is approved", Role: Approver, Own: Approver, In: []approval.State{approval.Approved}, Token: true},
	{Act: Approve, Words: "approve", Role: Approver, In: []approval.State{approval.InReview}},
	{Act: Confirm, Words: "confirm, after a restore, that an approval holds", Role: Approver, In: []approval.State{approval.Approved}},
	{Act: Issue, Words: "issue a document", Role: Engineer, Own: Engineer, In: []approval.State{approval.Approved}, Token: true},
	{Act: Write, Words: "write to who has a document", Role: Engineer, Own: Engineer, Token: true},
	{Act: Policy, Words: "set the policy, in whichever way it would become another", Role: Approver, Own: Approver, Token: true},
	{Act: People, Words: "make accounts, give roles, passwords and tokens, disable", Role: Administrator, Own: Administrator, Token: true},
	{Act: Audit, Words: "read and export the audit; see how the server works", Role: Administrator, Own: Administrator, Token: true},
}

// Who is somebody who acts.
type Who struct {
	ID    int64 // of the account; 0: none
	Role  Role
	Token bool  // a script's
	Acts  []Act // that the token is for; nil: all that its role may
}

// Of is the approval that an act is on.
type Of struct {
	State    approval.State
	Prepared []int64 // the accounts that prepared it
}

// Lacks is the error of who has not the role.
type Lacks struct{ Need, Have Role }

func (l *Lacks) Error() string { return fmt.Sprintf("it takes the role %s", l.Need) }

// ByToken is the error of a script that does what somebody has to look at.
type ByToken struct{}

func (ByToken) Error() string { return "a person does that, at a page" }

// NotFor is the error of a script whose token is for something else.
type NotFor struct{ Acts []Act }

func (n *NotFor) Error() string { return fmt.Sprintf("the token is for %s alone", List(n.Acts)) }

// List writes acts with commas between them.
func List(acts []Act) string {
	out := make([]string, len(acts))
	for i, a := range acts {
		out[i] = string(a)
	}
	return strings.Join(out, ", ")
}

// ForTokens are the acts that a token can be for.
func ForTokens() (acts []Act) {
	for i := range Table {
		if a := Table[i].Act; Table[i].Token && a != Enter && !slices.Contains(acts, a) {
			acts = append(acts, a)
		}
	}
	return acts
}

// Least is the least role with which an act may ever be done.
func Least(act Act) Role {
	least := Administrator
	for i := range Table {
		if r := &Table[i]; r.Act == act {
			for _, role := range []Role{r.Role, r.Own} {
				if least.May(role) && (role != Nobody || act == Enter) {
					least = role
				}
			}
		}
	}
	return least
}

// May reports why somebody may not do an act: a [Lacks], a [ByToken], a [NotFor], an [approval.NotNow] or an [approval.Own]. Without an
// approval it is the role, and whether a token may, that are asked for.
func May(act Act, who Who, of *Of) error {
	if least := Least(act); !who.Role.May(least) {
		return &Lacks{least, who.Role}
	}
	var rule *Rule
	for i := range Table {
		if r := &Table[i]; r.Act == act && (of == nil || r.In == nil || slices.Contains(r.In, of.State)) {
			rule = r
			break
		}
	}
	switch {
	case rule == nil:
		return &approval.NotNow{Act: approval.Act(act), State: of.State}
	case who.Token && !rule.Token:
		return ByToken{}
	case who.Token && who.Acts != nil && act != Enter && !slices.Contains(who.Acts, act):
		return &NotFor{who.Acts}
	case of == nil:
		return nil
	case slices.Contains(of.Prepared, who.ID) && rule.Own == Nobody && rule.Role != Nobody:
		return approval.Own{}
	case slices.Contains(of.Prepared, who.ID) && who.Role.May(rule.Own):
		return nil
	case !who.Role.May(rule.Role):
		return &Lacks{rule.Role, who.Role}
	}
	return nil
}

// Markdown is the table for people.
func Markdown() string {
	var out strings.Builder
	out.WriteString("| may | least role | who prepared it | when | by token |\n|---|---|---|---|---|\n")
	for i := range Table {
		r := &Table[i]
		role, own, when, token := "everybody", "as others", "", "no"
		if r.Role != Nobody {
			role = string(r.Role)
		}
		switch {
		case r.Own == Nobody && r.Role != Nobody:
			own = "never"
		case r.Own != r.Role:
			own = string(r.Own)
		}
		for n, s := range r.In {
			if n > 0 {
				when += ", "
			}
			when += strings.ReplaceAll(string(s), "_", " ")
		}
		if r.Token {
			token = "yes"
		}
		fmt.Fprintf(&out, "| %s | %s | %s | %s | %s |\n", r.Words, role, own, when, token)
	}
	return out.String()
}
