package drive

import (
	"bufio"
	"errors"
	"fmt"
	"os"
	"os/exec"
	"path/filepath"
	"regexp"
	"slices"
	"strings"
	"syscall"
)

// Build compiles the program into a folder, and says where it is. It refuses
// a tree whose front end has not been built.
func Build(root, dir string) (string, error) {
	if _, err := os.Stat(filepath.Join(root, "web/dist/index.html")); err != nil {
		return "", fmt.Errorf("the front end is not built, run make build: %w", err)
	}
	program := filepath.Join(dir, "nexufix")
	c := exec.Command("go", "build", "-o", program, "./cmd/nexufix")
	c.Dir = root
	if out, err := c.CombinedOutput(); err != nil {
		return "", fmt.Errorf("%w: %s", err, out)
	}
	return program, nil
}

// App is a running program.
type App struct {
	URL  string
	Data string // its folder
	Code string // for the first administrator; "" where there are accounts
	cmd  *exec.Cmd
}

// Start runs a command of the program that serves, on a port of its own, and
// waits until it listens.
func Start(program, command, data string, more ...string) (*App, error) {
	return start(program, command, data, "127.0.0.1:0", more...)
}

// StartWithPeople runs the demo with its people, who sign in; [Start] runs it as a desk of one.
func StartWithPeople(program, data string) (*App, error) {
	return start(program, "people", data, "127.0.0.1:0")
}

// Again starts it once more where it was, after it was stopped.
func (a *App) Again(program, command string) (*App, error) {
	return start(program, command, a.Data, strings.TrimPrefix(a.URL, "http://"))
}

func start(program, command, data, addr string, more ...string) (*App, error) {
	args := map[string][]string{"demo": {"demo", "--alone"}, "people": {"demo"}}[command]
	if args == nil {
		args = []string{command}
	}
	c := exec.Command(program, slices.Concat(args, []string{"--addr", addr, "--data", data}, more)...)
	log, err := c.StderrPipe()
	if err != nil {
		return nil, err
	}
	if err := c.Start(); err != nil {
		return nil, err
	}
	lines, code := bufio.NewScanner(log), ""
	for lines.Scan() {
		if m := coded.FindStringSubmatch(lines.Text()); m != nil {
			code = m[1]
		}
		if m := listening.FindStringSubmatch(lines.Text()); m != nil {
			go func() {
				for lines.Scan() { // so that the program never waits for a reader
				}
			}()
			return &App{m[1], data, code, c}, nil
		}
	}
	return nil, errors.Join(errors.New("the program did not start to listen"), c.Wait())
}

// Pid is its process.
func (a *App) Pid() int { return a.cmd.Process.Pid }

// Stop asks the program to stop and waits until it has.
func (a *App) Stop() error {
	if err := a.cmd.Process.Signal(syscall.SIGTERM); err != nil {
		return err
	}
	return a.cmd.Wait()
}

var (
	listening = regexp.MustCompile(`url=(http://\S+)`)
	coded     = regexp.MustCompile(`code=(\S+)`)
)
