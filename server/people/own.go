package people

import (
	"context"
	"sync"
	"time"

	"nexufix/store"
)

// ownSessions are the sessions of a server that only reads: those that began here are in memory, until it stops; beside them hold those
// of the server that writes.
type ownSessions struct {
	store.Sessions
	mu  sync.Mutex
	all map[string]ownSession
}

type ownSession struct {
	data []byte // nil: it ended here
	till time.Time
}

func newOwnSessions(st *store.Store) *ownSessions {
	return &ownSessions{Sessions: store.Sessions{Store: st}, all: map[string]ownSession{}}
}

// FindCtx finds a session that has not expired.
func (o *ownSessions) FindCtx(ctx context.Context, token string) ([]byte, bool, error) {
	o.mu.Lock()
	own, here := o.all[token]
	o.mu.Unlock()
	if here {
		return own.data, own.data != nil && time.Now().Before(own.till), nil
	}
	return o.Sessions.FindCtx(ctx, token)
}

// Of returns the sessions of an account that hold here, by their stored tokens; those that began here are of all accounts.
func (o *ownSessions) Of(ctx context.Context, person int64) (map[string][]byte, error) {
	all, err := o.Sessions.Of(ctx, person)
	o.mu.Lock()
	defer o.mu.Unlock()
	for token, own := range o.all {
		delete(all, token)
		if own.data != nil && time.Now().Before(own.till) {
			all[token] = own.data
		}
	}
	return all, err
}

// CommitCtx keeps a session, and drops those that have expired.
func (o *ownSessions) CommitCtx(_ context.Context, token string, data []byte, till time.Time) error {
	o.mu.Lock()
	defer o.mu.Unlock()
	for t, s := range o.all {
		if time.Now().After(s.till) {
			delete(o.all, t)
		}
	}
	o.all[token] = ownSession{data, till}
	return nil
}

// DeleteCtx ends a session here, also one of the server that writes.
func (o *ownSessions) DeleteCtx(ctx context.Context, token string) error {
	return o.CommitCtx(ctx, token, nil, time.Now().Add(longest))
}

// Find, Commit and Delete are the same without a context.
func (o *ownSessions) Find(token string) ([]byte, bool, error) { return o.FindCtx(background, token) }

// Commit is [ownSessions.CommitCtx].
func (o *ownSessions) Commit(token string, data []byte, till time.Time) error {
	return o.CommitCtx(background, token, data, till)
}

// Delete is [ownSessions.DeleteCtx].
func (o *ownSessions) Delete(token string) error { return o.DeleteCtx(background, token) }
