package main

import (
	"cmp"
	"context"
	"errors"
	"fmt"
	"io"
	"log/slog"
	"net"
	"net/netip"
	"os"
	"os/signal"
	"path/filepath"
	"regexp"
	"runtime/debug"
	"slices"
	"strings"
	"syscall"
	"time"

	"nexufix/app/people"
	"nexufix/app/review"
	"nexufix/core/rights"
	"nexufix/exchange"
	"nexufix/language"
	"nexufix/lease"
	"nexufix/seal"
	"nexufix/server"
	peopleroutes "nexufix/server/people"
	"nexufix/store"
	"nexufix/version"
)

type listen struct {
	Addr   string   `env:"NEXUFIX_ADDR" default:"127.0.0.1:8460" help:"Address to listen on."`
	Level  string   `name:"log-level" env:"NEXUFIX_LOG_LEVEL" enum:"debug,info,warn,error" default:"info" help:"What it logs: debug, info, warn or error."`
	Log    string   `env:"NEXUFIX_LOG" enum:"text,json" default:"text" help:"How it logs, to standard error: text or json."`
	Access bool     `env:"NEXUFIX_ACCESS_LOG" name:"access-log" help:"Log every request that is answered, by its route."`
	Memory int      `env:"NEXUFIX_MEMORY" placeholder:"MB" help:"How much memory the program is to keep to. Default: half of the machine's."`
	Host   []string `env:"NEXUFIX_HOST" placeholder:"NAME" help:"A name by which it is reached, with the port where it is not 443; may be repeated. The first is printed."`
	Below  string   `env:"NEXUFIX_BASE_PATH" name:"base-path" placeholder:"/PATH" help:"The path that a proxy has it under, which the proxy may take off or leave. Default: /."`
	Keys   string   `env:"NEXUFIX_KEYS" placeholder:"DIR" help:"Folder of the key that signs. Default: keys, in the folder of the database."`
	Proxy  []string `env:"NEXUFIX_PROXY" placeholder:"ADDR" help:"A proxy on another machine, or its network; may be repeated."`
}

type serveCommand struct {
	listen
	ssoFlags
	Data     string        `env:"NEXUFIX_DATA" placeholder:"DIR" help:"Folder of the database. Default: a folder of this user's."`
	Idle     time.Duration `env:"NEXUFIX_IDLE" default:"2h" help:"After how long without a request somebody is signed out; OWASP ASVS level 2 asks for 30m."`
	Second   string        `env:"NEXUFIX_SECOND_FACTOR" name:"second-factor" placeholder:"ROLE" help:"Who has this role or a higher one shows a second factor."`
	Lease    string        `env:"NEXUFIX_LEASE" placeholder:"DIR" help:"A folder that all machines reach which may write for this desk: one of them does."`
	ReadOnly bool          `env:"NEXUFIX_READ_ONLY" help:"Change nothing: beside a server that writes, or where its database is copied to."`
}

// Run serves the catalogue of a data folder until a signal.
func (c *serveCommand) Run(s *streams) error {
	dir := c.Data
	if dir == "" {
		var err error
		if dir, err = userData(); err != nil {
			return err
		}
	}
	open := store.Open
	if c.ReadOnly {
		open = store.OpenReadOnly
	}
	if c.Idle < time.Minute || c.Idle > 12*time.Hour {
		return badInput{fmt.Errorf("--idle %v: from 1m to 12h", c.Idle)}
	}
	if c.Second != "" && !slices.Contains(rights.Roles, people.Role(c.Second)) {
		return badInput{fmt.Errorf("--second-factor %s: reader, engineer, approver or administrator", c.Second)}
	}
	sso, err := c.sso()
	if err != nil {
		return err
	}
	return serve(s, &c.listen, dir, open, opening{door: peopleroutes.Options{SSO: sso, Idle: c.Idle, Second: people.Role(c.Second)},
		idp: c.WithSimulatedIDP, reads: c.ReadOnly, lease: c.Lease})
}

// logger logs as it is told to.
func (l *listen) logger(to io.Writer) *slog.Logger {
	levels := map[string]slog.Level{"debug": slog.LevelDebug, "warn": slog.LevelWarn, "error": slog.LevelError}
	o := &slog.HandlerOptions{Level: levels[l.Level]}
	if l.Log == "json" {
		return slog.New(slog.NewJSONHandler(to, o))
	}
	return slog.New(slog.NewTextHandler(to, o))
}

// limitMemory sets how much memory the program keeps to: collecting what is no longer
// used is done sooner the nearer it comes.
func (l *listen) limitMemory() {
	limit := int64(l.Memory) << 20
	if limit == 0 {
		limit = machineMemory() / 2
	}
	if limit > 0 {
		debug.SetMemoryLimit(limit)
	}
}

// proxies are the addresses and networks of the proxies.
func (l *listen) proxies() (all []netip.Prefix, err error) {
	for _, text := range l.Proxy {
		p, err := netip.ParsePrefix(text)
		if ip, alone := netip.ParseAddr(text); alone == nil {
			p, err = ip.Prefix(ip.BitLen())
		}
		if err != nil || p.Bits() == 0 {
			return nil, fmt.Errorf("--proxy %s: an address, or a network as 10.0.0.0/8", text)
		}
		all = append(all, p)
	}
	return all, nil
}

// alone holds a folder for the one server that writes in it, until leave is called or the process ends. Commands beside it write through
// the database's own locks.
func alone(dir string) (leave func(), err error) {
	f, err := os.OpenFile(filepath.Join(dir, "serving.lock"), os.O_CREATE|os.O_RDWR, 0o600)
	if err != nil {
		return nil, err
	}
	if err := lock(f); err != nil {
		return nil, errors.Join(badInput{fmt.Errorf("another server writes in %s; start this one with --read-only, or with another --data",
			dir)}, f.Close())
	}
	return func() { f.Close() }, nil
}

// keys is the folder of the signing key.
func (l *listen) keys(dir string) string { return cmp.Or(l.Keys, filepath.Join(dir, "keys")) }

// signingKey reads the key of a folder, makes it the first time, and stores its public half.
func signingKey(ctx context.Context, st *store.Store, dir string) (*seal.Key, error) {
	key, err := seal.Load(dir)
	if err != nil {
		return nil, fmt.Errorf("the signing key in %s: %w", dir, err)
	}
	return key, review.KnowKey(ctx, st, key)
}

// userData is the folder for this user's data: $XDG_DATA_HOME/nexufix, or
// what stands in for it.
func userData() (string, error) {
	if dir := os.Getenv("XDG_DATA_HOME"); dir != "" {
		return filepath.Join(dir, "nexufix"), nil
	}
	home, err := os.UserHomeDir()
	if err != nil {
		return "", fmt.Errorf("no folder for data: %w; give one with --data", err)
	}
	return filepath.Join(home, ".local", "share", "nexufix"), nil
}

// opening is what a server begins with.
type opening struct {
	first  *exchange.Contents
	people []people.NewPerson
	tokens map[string]string // for scripts, by login
	door   peopleroutes.Options
	idp    bool   // the simulated identity provider
	reads  bool   // it changes nothing
	lease  string // folder of the right to write; "": there is one machine
}

// basePath is what a proxy may have the server under: nothing that means something in an address, a cookie or the page.
var basePath = regexp.MustCompile(`^(/[A-Za-z0-9_-]+)+$`)

func serve(s *streams, on *listen, dir string, open func(context.Context, string) (*store.Store, error), what opening) (err error) {
	on.limitMemory()
	log := on.logger(s.err)
	ctx, stop := signal.NotifyContext(context.Background(), os.Interrupt, syscall.SIGTERM)
	defer stop()
	if _, _, err := net.SplitHostPort(on.Addr); err != nil {
		return badInput{fmt.Errorf("--addr %s: %w", on.Addr, err)}
	}
	proxies, err := on.proxies()
	if err != nil {
		return badInput{err}
	}
	below := strings.TrimRight(on.Below, "/")
	if below != "" && !basePath.MatchString(below) {
		return badInput{fmt.Errorf("--base-path %s: a path as /nexufix, of letters, digits, - and _", on.Below)}
	}
	l, err := net.Listen("tcp", on.Addr)
	if err != nil {
		return fmt.Errorf("%w; is another one running? choose another address with --addr", err)
	}
	if err := os.MkdirAll(dir, 0o700); err != nil {
		return errors.Join(fmt.Errorf("data folder: %w", err), l.Close())
	}
	leave, may, err := what.mayWrite(ctx, dir)
	if err != nil {
		return errors.Join(err, l.Close())
	}
	defer leave()
	st, err := open(ctx, filepath.Join(dir, "nexufix.db"))
	if err != nil {
		return errors.Join(err, l.Close())
	}
	defer func() { err = errors.Join(err, st.Close()) }()
	st.May = may
	hosts := server.HostsOf(l.Addr(), on.Host, below)
	hosts.Proxies = proxies
	// A further name is one by which a proxy hands on what others ask.
	elsewhere := !hosts.Loopback || len(on.Host) > 0
	if !what.reads {
		if hosts.Key, err = signingKey(ctx, st, on.keys(dir)); err != nil {
			return errors.Join(err, l.Close())
		}
	}
	if err := what.fill(ctx, st, dir, review.Issuer{Base: hosts.Base, Key: hosts.Key}, elsewhere); err != nil {
		return errors.Join(err, l.Close())
	}
	if err := what.signOn(ctx, st, log, &hosts, elsewhere); err != nil {
		return errors.Join(err, l.Close())
	}
	srv, err := server.New(st, log, hosts, filepath.Join(dir, "plots"), what.door)
	if err != nil {
		return errors.Join(err, l.Close())
	}
	srv.Access = on.Access
	log.Info("listening", "url", "http://"+l.Addr().String()+below, "data", dir, "version", version.Of())
	err = srv.Serve(ctx, l)
	log.Info("stopped")
	return err
}

// mayWrite holds a folder for a server that writes in it, until leave is called; and takes its lease, where it has one: may says from then
// on whether it is still held, nil: it always is.
func (o *opening) mayWrite(ctx context.Context, dir string) (leave func(), may func() error, err error) {
	if o.reads {
		return func() {}, nil, nil
	}
	if leave, err = alone(dir); err != nil {
		return nil, nil, err
	}
	unlock := leave
	// Held on while what was begun is finished, after the signal to stop.
	keeping, stop := context.WithCancel(context.WithoutCancel(ctx))
	leave = func() { stop(); unlock() }
	if may, err = o.lend(ctx, keeping, dir); err != nil {
		leave()
	}
	return leave, may, err
}

// lend takes the lease of a folder, where it has one, and keeps it until keeping ends.
func (o *opening) lend(ctx, keeping context.Context, dir string) (func() error, error) {
	folder, err := lease.Folder(dir)
	if folder = cmp.Or(o.lease, folder); err != nil || folder == "" {
		return nil, err
	}
	if _, err := os.Stat(filepath.Join(dir, promoting)); err == nil {
		return nil, badInput{errors.New("this folder is being promoted, and has no copy yet: say nexufix promote again")}
	}
	owner, err := lease.OwnerOf(dir)
	if err != nil {
		return nil, err
	}
	held, err := lease.Claim(ctx, folder, owner)
	if errors.As(err, new(*lease.Elsewhere)) {
		return nil, badInput{err}
	}
	if err != nil {
		return nil, err
	}
	if err := lease.Remember(dir, folder); err != nil {
		return nil, err
	}
	go held.Keep(keeping)
	return held.Held, nil
}

// signOn sets up the identity provider, where there is one.
func (o *opening) signOn(ctx context.Context, st *store.Store, log *slog.Logger, hosts *server.Hosts, elsewhere bool) (err error) {
	if o.idp && elsewhere {
		return badInput{errors.New("the simulated identity provider asks for no password: it answers this computer alone, without --host")}
	}
	if o.idp {
		if o.door.SSO, err = simulatedIDP(ctx, st, log); err != nil {
			return err
		}
	}
	if o.door.SSO == nil {
		return nil
	}
	if o.door.SSO.Base = hosts.Base; hosts.Base == "" {
		return badInput{errors.New("the identity provider sends people back by a name: give it with --host")}
	}
	return nil
}

// fill puts in what a store opens with, and refuses what could be reached from elsewhere without
// anybody who has to sign in.
func (o *opening) fill(ctx context.Context, st *store.Store, dir string, on review.Issuer, elsewhere bool) error {
	if o.first != nil {
		used, err := st.Used(ctx)
		if err == nil && !used { // what was changed since is kept
			_, err = st.Import(ctx, store.Author{Who: "Nexufix", Why: "Demo data", Policy: true}, "Demo data", o.first, nil, nil)
		}
		if err != nil {
			return err
		}
	}
	has, err := st.HasPeople(ctx)
	switch {
	case err != nil:
		return err
	case elsewhere && o.people != nil:
		return badInput{errors.New("the demo's people sign in with one press: it answers this computer alone, without --host")}
	case elsewhere && !has:
		return badInput{fmt.Errorf("it could be reached from elsewhere, and there is no administrator: make one first, with "+
			"nexufix user add LOGIN --name NAME --role administrator --data %s", dir)}
	}
	if o.people != nil && !has {
		for i := range o.people {
			if _, err := o.people[i].Add(ctx, st, people.Person{Name: "demo", Role: people.Administrator}, false); err != nil {
				return err
			}
		}
		if err := demoApprovals(ctx, st, on); err != nil {
			return err
		}
	}
	for login, token := range o.tokens {
		if _, err := (&people.Token{Login: login, Text: token, Role: people.Administrator, Days: 1}).Add(ctx, st, atDesk); err != nil {
			if errors.Is(err, store.ErrNotFound) {
				err = errors.New("nobody of the demo's; they are ada, tomas, mira and jun")
			}
			return badInput{fmt.Errorf("--token %s: %w", login, err)}
		}
	}
	return nil
}

type openAPICommand struct{}

// Run writes the OpenAPI document.
func (openAPICommand) Run(s *streams) error {
	raw, err := server.OpenAPI()
	if err != nil {
		return err
	}
	_, err = fmt.Fprintln(s.out, string(raw))
	return err
}

type wordsCommand struct {
	Language string `arg:"" default:"en" help:"The language's code."`
}

// Run writes them as TypeScript.
func (c wordsCommand) Run(s *streams) error {
	l, err := language.Of(c.Language)
	if err != nil {
		return err
	}
	_, err = fmt.Fprint(s.out, server.Words(l))
	return err
}

type schemaCommand struct {
	Out string `arg:"" placeholder:"DIR" help:"The folder."`
}

// Run writes a file a kind.
func (c *schemaCommand) Run(*streams) error {
	if err := os.MkdirAll(c.Out, 0o755); err != nil {
		return badInput{err}
	}
	for _, kind := range server.SchemaKinds {
		raw, err := server.Schema(kind)
		if err != nil {
			return err
		}
		if err := writeFile(filepath.Join(c.Out, kind+".json"), append(raw, '\n')); err != nil {
			return err
		}
	}
	return nil
}
