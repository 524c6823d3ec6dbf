package main

import (
	"context"
	"crypto/rand"
	"errors"
	"fmt"
	"log/slog"
	"net"
	"net/http"
	"os"
	"strconv"
	"strings"
	"time"

	"nexufix/server/people"
	"nexufix/standins/idp"
	"nexufix/store"
)

type ssoFlags struct {
	SSOIssuer     string `name:"sso-issuer" env:"NEXUFIX_SSO_ISSUER" placeholder:"URL" help:"The company's identity provider (OpenID Connect), at which people sign in."`
	SSOClient     string `name:"sso-client" env:"NEXUFIX_SSO_CLIENT" placeholder:"ID" help:"How the provider knows this server."`
	SSOSecretFile string `name:"sso-secret-file" env:"NEXUFIX_SSO_SECRET_FILE" placeholder:"FILE" help:"A file with the client's secret in it."`
	SSOName       string `name:"sso-name" env:"NEXUFIX_SSO_NAME" default:"the company's account" help:"What people call the provider: Sign in with NAME."`
	SSOClaim      string `name:"sso-claim" env:"NEXUFIX_SSO_CLAIM" default:"preferred_username" help:"What is the login here: preferred_username, or email."`

	WithSimulatedIDP bool `name:"with-simulated-idp" help:"A simulated identity provider that asks for no password, to try it out."`
}

// sso are the settings of the provider; nil where there is none.
func (f *ssoFlags) sso() (*people.SSO, error) {
	if f.SSOIssuer == "" {
		if f.SSOClient != "" || f.SSOSecretFile != "" {
			return nil, badInput{errors.New("--sso-client and --sso-secret-file need --sso-issuer")}
		}
		return nil, nil
	}
	if f.WithSimulatedIDP {
		return nil, badInput{errors.New("--sso-issuer or --with-simulated-idp, not both")}
	}
	if f.SSOSecretFile == "" {
		return nil, badInput{errors.New("--sso-issuer needs --sso-secret-file: a file with the client's secret in it")}
	}
	secret, err := os.ReadFile(f.SSOSecretFile)
	if err != nil {
		return nil, badInput{err}
	}
	s := &people.SSO{Issuer: f.SSOIssuer, Client: f.SSOClient, Secret: strings.TrimSpace(string(secret)), Name: f.SSOName, Claim: f.SSOClaim}
	if err := s.Check(); err != nil {
		return nil, badInput{err}
	}
	return s, nil
}

// simulatedIDP runs the stand-in on a port of its own until the context ends. It knows whoever signs in by single sign-on here, and
// somebody who does not.
func simulatedIDP(ctx context.Context, st *store.Store, log *slog.Logger) (*people.SSO, error) {
	l, err := net.Listen("tcp", "127.0.0.1:0")
	if err != nil {
		return nil, err
	}
	known := func() (out []idp.Person) {
		all, err := st.People(ctx)
		if err != nil {
			log.Warn("the simulated identity provider", "err", err)
		}
		for _, p := range all {
			if p.SSO {
				out = append(out, idp.Person{Subject: "account " + strconv.FormatInt(p.ID, 10), Login: p.Login, Name: p.Name})
			}
		}
		return append(out, idp.Person{Subject: "stranger", Login: "stranger", Name: "Somebody who has no account here"})
	}
	p, err := idp.New("http://"+l.Addr().String(), "nexufix", rand.Text(), known)
	if err != nil {
		return nil, errors.Join(err, l.Close())
	}
	h := &http.Server{Handler: p, ReadHeaderTimeout: 10 * time.Second}
	context.AfterFunc(ctx, func() { _ = h.Close() }) // nobody waits for it
	go func() { _ = h.Serve(l) }()                   // until it is closed
	log.Info(fmt.Sprintf("a simulated identity provider at %s", p.Issuer))
	return &people.SSO{Issuer: p.Issuer, Client: p.Client, Secret: p.Secret, Name: "the simulated provider", Claim: people.Claims[0]}, nil
}
