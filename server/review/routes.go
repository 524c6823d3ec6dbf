// Package review serves approvals: what waits for whom, what to look at before approving, decisions, and issued
// documents. Approvals are judged again when the catalogue changes.
package review

import (
	"nexufix/app/bench"
	"nexufix/app/review"
	"nexufix/core/approval"
	"nexufix/core/catalog"
	"nexufix/core/rights"
	"nexufix/server/api"
	"nexufix/store"
)

// Routes are the operations of reviews.
func (f *Feature) Routes() []api.Route {
	return []api.Route{
		api.Get("/api/desk", "What waits for who asks.", nil, review.Desk{}, f.desk),
		api.Get("/api/measurement-priorities",
			"Displays that fit no bracket for want of a figure, or of which a job rests on what a caller said.", nil,
			[]bench.MeasurementPriority{}, f.measurementPriorities).Weighs(api.Heavy),
		api.Get("/api/live", "Says, as server-sent events, when something has changed and who else is at the same address.", at{}, Live{},
			f.live).Returns(200, "text/event-stream"),
		api.Get("/api/approvals", "The approvals, the latest first; of a job, or of a display on a bracket, or all.", listed{},
			[]review.ApprovalLine{}, f.list),
		api.Post("/api/approvals", "Send a job, or a pairing for any wall of a kind, for review.", Submission{}, review.ApprovalLine{},
			f.submit).Requires(rights.Submit).Returns(201, ""),
		api.Get("/api/approvals/{id}", "What one looks at before approving.", api.ByNumber{}, review.Review{}, f.review).Weighs(api.Quick),
		api.Post("/api/approvals/{id}/decide", "Approve, send back, withdraw, or confirm after a restore.", decided{},
			review.ApprovalLine{}, f.decide).Requires(rights.Withdraw),
		api.Post("/api/approvals/confirm", "Confirm that approvals which a backup gave back still hold, all or none.", Confirmation{},
			[]review.ApprovalLine{}, f.confirm).Requires(rights.Confirm),
		api.Post("/api/approvals/{id}/comments", "Say something of it, of a finding or of a step.", commented{}, nil,
			f.comment).Requires(rights.Comment).Returns(204, ""),
		api.Get("/api/approvals/{id}/sheet", "A sheet of what is frozen, as a draft.", sheetAsk{}, "", f.sheet).Weighs(api.Heavy).Returns(200,
			"application/pdf"),
		api.Post("/api/approvals/{id}/issue", "Issue a document of what is approved.", issued{}, review.IssuedLine{},
			f.issue).Requires(rights.Issue).Weighs(api.Heavy).
			Returns(201, ""),
		api.Get("/api/families", "What may be sent together of a bracket on a kind of wall: displays with the same bolts and steps.", ranged{},
			[]review.Family{}, f.families).Requires(rights.Submit).Weighs(api.Heavy),
		api.Post("/api/families", "Send several of one family for review, all or none.", FamilySubmission{}, []review.ApprovalLine{},
			f.submitFamily).Requires(rights.Submit).Weighs(api.Heavy).Returns(201, ""),
		api.Get("/api/families/{key}", "What of a family is in review, with what is equal and what differs.", byKey{}, review.Family{},
			f.family).Weighs(api.Heavy),
		api.Post("/api/families/{key}/decide", "Approve, send back or withdraw members of a family, all or none.", familyDecided{},
			[]review.ApprovalLine{}, f.decideFamily).Requires(rights.Withdraw).Weighs(api.Heavy),
		api.Get("/api/issued", "The documents that were issued, the latest first.", nil, []review.IssuedLine{}, f.allIssued),
		api.Get("/api/issued/{id}", "A document as it was issued.", api.ByNumber{}, "", f.file).Returns(200, "application/pdf"),
		api.Get("/api/issued/{id}/letter", "The letter about a document that is ready: with it, or to take it back.", api.ByNumber{},
			review.Letter{}, f.letter),
		api.Post("/api/issued/{id}/send", "Send the letter about a document, to the simulated mail desk.", sending{}, review.Letter{},
			f.send).Requires(rights.Write).
			Returns(201, ""),
		api.Get("/api/issued/{id}/release", "What was signed of a document, with the figures that were approved.", api.ByNumber{}, "",
			f.release).Returns(200, "application/json"),
		api.Get("/v/keys", "The public keys by which documents are signed (PEM).", nil, "", f.keys).Requires(rights.Enter).Returns(200,
			"application/x-pem-file"),
		api.Get("/v/{code}", "Whether a document is current, by the code that is printed on it; for everybody.", byCode{}, "",
			f.verify).Requires(rights.Enter).Returns(200, "text/html"),
	}
}

// Submission sends a subject for review.
type Submission struct {
	Subject review.Subject `json:"subject" required:"true"`
	Text    string         `json:"text,omitempty" maxLength:"2000" lines:"ok" description:"For who reviews it."`
}

// Decision is a decision about an approval, and the version that was seen.
type Decision struct {
	Version int          `json:"version" required:"true" minimum:"1"`
	Act     approval.Act `json:"act" required:"true" enum:"approve,confirm,send_back,withdraw"`
	Text    string       `json:"text,omitempty" maxLength:"2000" lines:"ok" description:"Why; to send it back, it is needed."`
}

// Confirmation confirms approvals after a restore, in the versions that were seen.
type Confirmation struct {
	Members []store.Seen `json:"members" required:"true" minItems:"1" maxItems:"200"`
	Text    string       `json:"text,omitempty" maxLength:"2000" lines:"ok" description:"How that is known."`
}

// FamilySubmission sends several subjects for review together.
type FamilySubmission struct {
	Subjects []review.Subject `json:"subjects" required:"true" minItems:"1" maxItems:"200"`
	Text     string           `json:"text,omitempty" maxLength:"2000" lines:"ok" description:"For who reviews it."`
}

// FamilyDecision is a decision about members of a family.
type FamilyDecision struct {
	Members []store.Seen `json:"members" required:"true" minItems:"1" maxItems:"200"`
	Act     approval.Act `json:"act" required:"true" enum:"approve,send_back,withdraw"`
	Text    string       `json:"text,omitempty" maxLength:"2000" lines:"ok" description:"Why; to send it back, it is needed."`
}

type ranged struct {
	Bracket string           `query:"bracket" required:"true" maxLength:"80"`
	Wall    catalog.WallType `query:"wall" required:"true"`
	Turn    int              `query:"turn_deg" enum:"0,90,270"`
	Words   string           `query:"words" maxLength:"200"`
}

type byKey struct {
	Key string `path:"key"`
}

type familyDecided struct {
	Key string `path:"key"`
	FamilyDecision
}

// listed filters the list of approvals; empty: all.
type listed struct {
	Job     string `query:"job" maxLength:"80"`
	Display string `query:"display" maxLength:"80"`
	Bracket string `query:"bracket" maxLength:"80"`
}

type decided struct {
	ID int64 `path:"id"`
	Decision
}

// Remark is a comment on an approval.
type Remark struct {
	About string `json:"about,omitempty" maxLength:"80" description:"rule: and the rule of a finding, or step: and the id of a step."`
	Text  string `json:"text" required:"true" maxLength:"2000" lines:"ok"`
}

type commented struct {
	ID int64 `path:"id"`
	Remark
}

type issued struct {
	ID int64 `path:"id"`
	review.Issue
}

type sending struct {
	ID int64 `path:"id"`
	review.SendLetter
}

type sheetAsk struct {
	ID   int64  `path:"id"`
	What string `query:"what" required:"true" enum:"pack,template,card"`
	Lang string `query:"lang" pattern:"^[a-z]{2,3}$"`
}

type byCode struct {
	Code string `path:"code"`
	Said string `query:"r" maxLength:"300" description:"What else the printed code says: key, fingerprint and signature."`
}

// at is the address of a listening page.
type at struct {
	Path string `query:"path" maxLength:"200"`
}
