// Command nexufix matches displays to brackets, draws drilling templates and
// writes step sequences: on the command line, or as a web application.
package main

import (
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"os"
	"runtime"

	"github.com/alecthomas/kong"
	mangokong "github.com/alecthomas/mango-kong"
	kongcompletion "github.com/jotaen/kong-completion"

	"nexufix/exchange"
	"nexufix/version"
)

// Exit codes: computed, whatever the verdict; an inside failure; bad input.
const (
	exitOK       = 0
	exitFailure  = 1
	exitBadInput = 2
)

type cli struct {
	Version kong.VersionFlag  `help:"Say which program this is, and what it was built for."`
	Man     mangokong.ManFlag `help:"Write the manual page (roff)."`

	Match    matchCommand    `cmd:"" help:"Judge displays with brackets."`
	Probe    probeCommand    `cmd:"" help:"Work out a threaded hole from a caller's trial bolts."`
	Place    placeCommand    `cmd:"" help:"Place displays on their walls: heights, studs, drill points."`
	Template templateCommand `cmd:"" help:"Draw the drilling template at 1:1."`
	Steps    stepsCommand    `cmd:"" help:"Write the step sequence."`
	Import   importCommand   `cmd:"" help:"Put a document, workbook or table into the catalogue."`
	Export   exportCommand   `cmd:"" help:"Write the catalogue as a document, workbook or table."`
	Backup   backupCommand   `cmd:"" help:"Write the whole database into a file."`
	Promote  promoteCommand  `cmd:"" help:"Write from now on in the place of another server, which is lost or stops."`
	Thin     thinCommand     `cmd:"" help:"Empty old revisions of the catalogue, but for one a month; nothing of approvals is lost."`
	Restore  restoreCommand  `cmd:"" help:"Put a backup in place of the catalogue; people, the audit and what was issued since stay."`
	Serve    serveCommand    `cmd:"" help:"Start the web application."`
	User     userCommand     `cmd:"" help:"Say who may sign in."`
	Audit    auditCommand    `cmd:"" help:"Write the audit, or check that it is whole."`
	Verify   verifyCommand   `cmd:"" help:"Check a released document without the server that issued it."`
	Key      keyCommand      `cmd:"" help:"The key that signs released documents."`
	Demo     demoCommand     `cmd:"" help:"Start the web application with the demo data."`
	Schema   schemaCommand   `cmd:"" help:"Write the JSON Schemas of the exchange format into a folder."`
	Words    wordsCommand    `cmd:"" hidden:"" help:"Write the page's names of walls, fasteners and rules, as TypeScript."`
	OpenAPI  openAPICommand  `cmd:"" name:"openapi" help:"Write the API's OpenAPI document."`

	Completion kongcompletion.Completion `cmd:"" help:"Say how bash, zsh or fish completes what is typed."`
}

// streams are what a command reads and where it writes.
type streams struct {
	in       io.Reader
	out, err io.Writer
	used     bool // standard input was read
}

func main() { os.Exit(run(os.Args[1:], os.Stdin, os.Stdout, os.Stderr)) }

func run(args []string, stdin io.Reader, stdout, stderr io.Writer) (code int) {
	var c cli
	exited := -1
	parser, err := kong.New(&c,
		kong.Name("nexufix"),
		kong.Description("Matches displays to brackets by hole pattern, thread, bolt length, spacers, weight and size."),
		kong.Vars{"version": "nexufix " + version.Of() + " " + runtime.GOOS + "/" + runtime.GOARCH},
		kong.Writers(stdout, stderr),
		kong.Exit(func(code int) { exited = code; panic(exitNow{}) }),
		kong.Bind(&streams{in: stdin, out: stdout, err: stderr}),
	)
	if err != nil {
		fmt.Fprintln(stderr, "nexufix:", err)
		return exitFailure
	}
	defer func() {
		if r := recover(); r != nil {
			if _, ok := r.(exitNow); !ok {
				panic(r)
			}
			code = exited
		}
	}()
	kongcompletion.Register(parser)
	if len(args) > 0 && args[0] == "help" { // as people ask it of other programs
		args = append(args[1:], "--help")
	}
	context, err := parser.Parse(args)
	if err != nil {
		fmt.Fprintln(stderr, "nexufix:", err)
		fmt.Fprintln(stderr, "nexufix --help lists the commands")
		return exitBadInput
	}
	return report(context.Run(), stderr)
}

// exitNow unwinds kong's --help, which wants to leave the process.
type exitNow struct{}

// badInput marks an error as the caller's.
type badInput struct{ error }

func (b badInput) Unwrap() error { return b.error }

func report(err error, stderr io.Writer) int {
	if err == nil {
		return exitOK
	}
	fmt.Fprintln(stderr, err)
	var problems exchange.Problems
	var bad badInput
	if errors.As(err, &problems) || errors.As(err, &bad) {
		return exitBadInput
	}
	return exitFailure
}

func writeJSON(w io.Writer, v any) error {
	e := json.NewEncoder(w)
	e.SetIndent("", "  ")
	e.SetEscapeHTML(false)
	return e.Encode(v)
}
