package rights

import (
	"errors"
	"os"
	"slices"
	"strings"
	"testing"

	"nexufix/core/approval"
)

// TestMay: each act by each role, of others' and of one's own, in each state, with and without a token; said once more here, by hand, from
// what docs/approval.md promises.
func TestMay(t *testing.T) {
	const me, other = 7, 8
	states := []approval.State{approval.Draft, approval.InReview, approval.Approved, approval.Superseded, approval.Withdrawn}
	allowed := func(act Act, role Role, own, token bool, s approval.State) bool {
		engineer := slices.Contains([]Role{Engineer, Approver, Administrator}, role)
		approver := role == Approver || role == Administrator
		open := s == approval.Draft || s == approval.InReview
		switch act {
		case Enter:
			return true
		case Look, Tick:
			return role != Nobody
		case Password:
			return role != Nobody && !token
		case Edit, Comment, Submit, Write:
			return engineer
		case SendBack:
			return s == approval.InReview && (approver || own && engineer)
		case Withdraw:
			return open && (approver || own && engineer) || s == approval.Approved && approver
		case Approve:
			return s == approval.InReview && approver && !own && !token
		case Confirm:
			return s == approval.Approved && approver && !own && !token
		case Issue:
			return s == approval.Approved && engineer
		case Policy:
			return approver
		case People, Audit:
			return role == Administrator
		}
		t.Fatalf("%s is not known here", act)
		return false
	}
	tried := 0
	for i := range Table {
		for _, role := range append([]Role{Nobody, "king"}, Roles...) {
			for _, own := range []bool{true, false} {
				for _, token := range []bool{true, false} {
					for _, s := range states {
						of := &Of{State: s, Prepared: []int64{other}}
						if own {
							of.Prepared = append(of.Prepared, me)
						}
						err := May(Table[i].Act, Who{ID: me, Role: role, Token: token}, of)
						want := allowed(Table[i].Act, role, own, token, s) && (role != "king" || Table[i].Act == Enter)
						if (err == nil) != want {
							t.Errorf("%s by %q, own %v, token %v, %s: %v", Table[i].Act, role, own, token, s, err)
						}
						tried++
					}
				}
			}
		}
	}
	if tried < 2000 {
		t.Errorf("only %d were tried", tried)
	}
}

// TestTokenIsFor: a token does what it is for and nothing else, of what its role may and a token can; a session is not asked.
func TestTokenIsFor(t *testing.T) {
	for i := range Table {
		act := Table[i].Act
		for _, of := range ForTokens() {
			err := May(act, Who{ID: 1, Role: Administrator, Token: true, Acts: []Act{of}}, nil)
			if want := act == Enter || act == of; (err == nil) != want {
				t.Errorf("%s with a token for %s: %v", act, of, err)
			}
		}
		if err := May(act, Who{ID: 1, Role: Administrator, Acts: []Act{}}, nil); err != nil {
			t.Errorf("%s by a person: %v", act, err)
		}
	}
	if all := List(ForTokens()); all != "look, tick, edit, comment, submit, send_back, withdraw, issue, write, policy, people, audit" {
		t.Errorf("tokens are for %s", all)
	}
}

// TestWhyNot: the reason is the one that can be done something about.
func TestWhyNot(t *testing.T) {
	in := &Of{State: approval.InReview, Prepared: []int64{7}}
	var lacks *Lacks
	var not *approval.NotNow
	if err := May(Approve, Who{ID: 7, Role: Approver, Token: false}, in); !errors.Is(err, approval.Own{}) {
		t.Error(err)
	}
	if err := May(Approve, Who{ID: 8, Role: Engineer, Token: false}, in); !errors.As(err, &lacks) || lacks.Need != Approver {
		t.Error(err)
	}
	if err := May(SendBack, Who{ID: 8, Role: Engineer, Token: false}, in); !errors.As(err, &lacks) || lacks.Need != Approver {
		t.Error(err)
	}
	if err := May(Issue, Who{ID: 8, Role: Engineer, Token: false}, in); !errors.As(err, &not) || not.State != approval.InReview {
		t.Error(err)
	}
	if err := May(Approve, Who{ID: 8, Role: Approver, Token: true}, in); !errors.Is(err, ByToken{}) {
		t.Error(err)
	}
	for act, want := range map[Act]Role{Enter: Nobody, Look: Reader, Withdraw: Engineer, SendBack: Engineer, Approve: Approver,
		People: Administrator} {
		if got := Least(act); got != want {
			t.Errorf("%s takes at least %q", act, got)
		}
	}
}

// TestTableIsDocumented: docs/security.md has the table as it is.
func TestTableIsDocumented(t *testing.T) {
	raw, err := os.ReadFile("../../docs/security.md")
	if err != nil {
		t.Fatal(err)
	}
	if !strings.Contains(string(raw), Markdown()) {
		t.Errorf("docs/security.md has another table than:\n%s", Markdown())
	}
}
