// Package drive starts the real program on a database of its own, and a
// headless Chromium to use it with. The browser tests and the screenshots
// both stand on it.
package drive

import (
	"bufio"
	"context"
	"errors"
	"fmt"
	"os"
	"os/exec"
	"path/filepath"
	"regexp"
	"strings"
	"syscall"
	"time"

	"github.com/chromedp/cdproto/browser"
	"github.com/chromedp/cdproto/cdp"
	"github.com/chromedp/cdproto/dom"
	"github.com/chromedp/cdproto/emulation"
	"github.com/chromedp/cdproto/input"
	"github.com/chromedp/cdproto/log"
	"github.com/chromedp/cdproto/page"
	"github.com/chromedp/cdproto/runtime"
	"github.com/chromedp/cdproto/webauthn"
	"github.com/chromedp/chromedp"
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

var (
	listening = regexp.MustCompile(`url=(http://\S+)`)
	coded     = regexp.MustCompile(`code=(\S+)`)
)

// Start runs a command of the program that serves, on a port of its own, and
// waits until it listens.
func Start(program, command, data string) (*App, error) {
	return start(program, command, data, "127.0.0.1:0")
}

// StartWithPeople runs the demo with its people, who sign in; [Start] runs it as a desk of one.
func StartWithPeople(program, data string) (*App, error) {
	return start(program, "people", data, "127.0.0.1:0")
}

// Again starts it once more where it was, after it was stopped.
func (a *App) Again(program, command string) (*App, error) {
	return start(program, command, a.Data, strings.TrimPrefix(a.URL, "http://"))
}

func start(program, command, data, addr string) (*App, error) {
	args := map[string][]string{"demo": {"demo", "--alone"}, "people": {"demo"}}[command]
	if args == nil {
		args = []string{command}
	}
	c := exec.Command(program, append(args, "--addr", addr, "--data", data)...)
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

// Chromium starts the browser, with windows of 1280 × 800.
func Chromium(parent context.Context) (context.Context, context.CancelFunc, error) {
	opts := append(chromedp.DefaultExecAllocatorOptions[:],
		chromedp.NoSandbox, // the tests run as root in containers
		chromedp.DisableGPU,
		chromedp.WindowSize(1280, 800),
		chromedp.Flag("disable-quic", true),
		chromedp.Flag("disable-component-update", true),
		chromedp.Flag("hide-scrollbars", true),
	)
	ctx, stop := chromedp.NewExecAllocator(parent, opts...)
	browser, closeBrowser := chromedp.NewContext(ctx)
	return browser, func() { closeBrowser(); stop() }, chromedp.Do(browser)
}

// Tab opens a window that shares nothing with others. What the page throws, or
// the browser complains of, goes to complain.
func Tab(browser context.Context, complain func(string)) (context.Context, context.CancelFunc) {
	var tab context.Context
	tab, stop := chromedp.NewContext(browser, chromedp.WithNewBrowserContext(), chromedp.WithListener(func(event any) {
		switch e := event.(type) {
		case *page.EventJavascriptDialogOpening: // leaving what is not saved is meant
			go func() { // an answer that cannot be given keeps the page from going on, which is seen
				_ = chromedp.Do(tab, func(ctx context.Context, _ *chromedp.Target) (chromedp.Void, error) {
					_, err := chromedp.Call(ctx, page.HandleJavaScriptDialog, page.HandleJavaScriptDialogParams{Accept: true})
					return chromedp.Void{}, err
				})
			}()
		case *runtime.EventExceptionThrown:
			complain("exception: " + e.ExceptionDetails.Text + " " + e.ExceptionDetails.URL)
		case *log.EventEntryAdded:
			if e.Entry.Level == log.EntryLevelError {
				complain("browser: " + e.Entry.Text + " " + e.Entry.URL)
			}
		}
	}))
	return tab, stop
}

// Page is a tab that is driven one act at a time; the first error stays.
type Page struct {
	ctx     context.Context
	timeout time.Duration
	tablet  chromedp.Action[chromedp.Void] // makes the window one; nil where it is none
	Err     error
}

// NewPage drives the tab of a context.
func NewPage(ctx context.Context) *Page { return &Page{ctx: ctx, timeout: 30 * time.Second} }

func (p *Page) do(what string, a ...chromedp.Action[chromedp.Void]) {
	if p.Err != nil {
		return
	}
	if err := chromedp.Do(p.ctx); err != nil { // starts the browser, which must not end with a timeout
		p.Err = err
		return
	}
	ctx, cancel := context.WithTimeout(p.ctx, p.timeout)
	defer cancel()
	if err := chromedp.Do(ctx, a...); err != nil {
		p.Err = fmt.Errorf("%s: %w", what, err)
	}
}

// Open goes to an address.
func (p *Page) Open(url string) {
	size := chromedp.EmulateViewport(1280, 800)
	if p.tablet != nil {
		size = p.tablet
	}
	p.do("open "+url, size, chromedp.Navigate(url))
}

// Reload loads the page again.
func (p *Page) Reload() { p.do("reload", chromedp.Reload()) }

// Back goes back as by the browser's button.
func (p *Page) Back() { p.do("back", chromedp.NavigateBack()) }

// Forward goes forward again.
func (p *Page) Forward() { p.do("forward", chromedp.NavigateForward()) }

// Scheme makes the browser prefer light or dark, and no motion.
func (p *Page) Scheme(name string) {
	p.do("scheme", func(ctx context.Context, _ *chromedp.Target) (chromedp.Void, error) {
		// A page in the background would never have the keyboard.
		if _, err := chromedp.Call(ctx, emulation.SetFocusEmulationEnabled, emulation.SetFocusEmulationEnabledParams{Enabled: true}); err != nil {
			return chromedp.Void{}, err
		}
		_, err := chromedp.Call(ctx, emulation.SetEmulatedMedia, emulation.SetEmulatedMediaParams{
			Features: []*emulation.MediaFeature{{Name: "prefers-color-scheme", Value: name}, {Name: "prefers-reduced-motion", Value: "reduce"}},
		})
		return chromedp.Void{}, err
	})
}

// Downloads lets downloads go to a folder.
func (p *Page) Downloads(dir string) {
	p.do("downloads", func(ctx context.Context, _ *chromedp.Target) (chromedp.Void, error) {
		_, err := chromedp.CallBrowser(ctx, browser.SetDownloadBehavior, browser.SetDownloadBehaviorParams{
			Behavior: browser.SetDownloadBehaviorBehaviorAllow, DownloadPath: dir, BrowserContextID: chromedp.FromContext(ctx).BrowserContextID,
		})
		return chromedp.Void{}, err
	})
}

// Passkeys gives the tab a simulated device with passkeys, whose person is always there and known to it.
func (p *Page) Passkeys() {
	p.do("passkeys", func(ctx context.Context, _ *chromedp.Target) (chromedp.Void, error) {
		if _, err := chromedp.Call(ctx, webauthn.Enable, webauthn.EnableParams{}); err != nil {
			return chromedp.Void{}, err
		}
		_, err := chromedp.Call(ctx, webauthn.AddVirtualAuthenticator, webauthn.AddVirtualAuthenticatorParams{
			Options: &webauthn.VirtualAuthenticatorOptions{Protocol: webauthn.AuthenticatorProtocolCtap2,
				Transport: webauthn.AuthenticatorTransportInternal, HasResidentKey: true, HasUserVerification: true, IsUserVerified: true,
				AutomaticPresenceSimulation: true}})
		return chromedp.Void{}, err
	})
}

// Size sets the window's size.
func (p *Page) Size(w, h int64) { p.do("size", chromedp.EmulateViewport(w, h)) }

// Wait waits until a JavaScript expression is true.
func (p *Page) Wait(condition string) {
	if p.Err != nil {
		return
	}
	p.do("wait for "+condition, func(ctx context.Context, t *chromedp.Target) (chromedp.Void, error) {
		for {
			_, err := chromedp.Poll[bool]("!!("+condition+")", chromedp.WithPollingInterval(20*time.Millisecond),
				chromedp.WithPollingTimeout(0))(ctx, t)
			if err == nil || ctx.Err() != nil || !leaving(err) {
				return chromedp.Void{}, err
			}
		}
	})
	if p.Err != nil && p.ctx.Err() == nil {
		p.Err = fmt.Errorf("%w\nthe page says: %.900s", p.Err, p.peek())
	}
}

// leaving says that the page was left for another while it was looked at.
func leaving(err error) bool {
	for _, words := range []string{"navigated or closed", "context was destroyed", "Cannot find context",
		"Cannot find default execution context"} {
		if strings.Contains(err.Error(), words) {
			return true
		}
	}
	return false
}

func (p *Page) peek() string {
	text, _ := chromedp.Run(p.ctx, chromedp.Evaluate[string](`location.pathname + location.search + '\n' +
		[...document.querySelectorAll('input[aria-label]')].filter((i) => i.value).map((i) => i.ariaLabel + ' = ' + i.value).join('; ') +
		'\n' + document.querySelector('main')?.innerText`))
	return text
}

// See waits until an element is there.
func (p *Page) See(css string) { p.Wait(fmt.Sprintf("document.querySelector(%q)", css)) }

// Ready waits until the bench shows the answer to what is asked.
func (p *Page) Ready() { p.See(`.bench[data-ready="yes"]`) }

// middle is where the middle of what a JavaScript expression finds is, once it is there, in view and
// stands still: a hand does not press what is moving.
func (p *Page) middle(js string) (x, y float64) {
	p.Wait(js)
	at := Value[[]float64](p, fmt.Sprintf(`(async () => { let was = [], still = 0; for (;;) {
		const e = %s; e?.scrollIntoView({block: 'nearest'});
		const r = e?.getBoundingClientRect(), now = r ? [r.x + r.width / 2, r.y + r.height / 2] : [];
		const moves = e && document.getAnimations().some((a) => a.playState === 'running' && a.effect?.target?.contains(e));
		still = now.length && !moves && now.join() === was.join() ? still + 1 : 0;
		if (still === 3) return now;
		was = now; await new Promise((go) => setTimeout(go, 16)); } })()`, js))
	if p.Err != nil {
		return 0, 0
	}
	return at[0], at[1]
}

// element is the expression that finds what a selector does.
func element(css string) string { return fmt.Sprintf("document.querySelector(%q)", css) }

// press presses the mouse at the middle of what an expression finds.
func (p *Page) press(what, js string) {
	x, y := p.middle(js)
	p.mouse(what, "mouseMoved", x, y, 0, 0)
	p.mouse(what, "mousePressed", x, y, 1, 0)
	p.mouse(what, "mouseReleased", x, y, 0, 0)
}

// Click clicks the middle of an element, once it is there.
func (p *Page) Click(css string) { p.press("click "+css, element(css)) }

// PressButton presses the first button or link among those that a selector finds whose text is,
// or begins with, some words; with the mouse, once it is there.
func (p *Page) PressButton(css, words string) {
	const find = `[...document.querySelectorAll(%q)].find((b) => b.innerText.trim().startsWith(%q) && !b.disabled)`
	p.press("press "+words, fmt.Sprintf(find, css, words))
}

// Fill types over what a field has: a click, Ctrl+A, the keys of the text.
func (p *Page) Fill(css, text string) {
	p.Click(css)
	p.Chord("a")
	p.Type(text)
}

// Choose presses a button that asks for a file, and picks one in the dialog that opens.
func (p *Page) Choose(css, words, file string) {
	intercept := func(on bool) {
		p.do("watch for the dialog", func(ctx context.Context, _ *chromedp.Target) (chromedp.Void, error) {
			_, err := chromedp.Call(ctx, page.SetInterceptFileChooserDialog, page.SetInterceptFileChooserDialogParams{Enabled: on})
			return chromedp.Void{}, err
		})
	}
	opened := make(chan cdp.BackendNodeID, 1)
	if p.Err == nil {
		p.Err = chromedp.Listen(p.ctx, func(event any) {
			if e, ok := event.(*page.EventFileChooserOpened); ok {
				select {
				case opened <- e.BackendNodeID:
				default:
				}
			}
		})
	}
	intercept(true)
	p.PressButton(css, words)
	p.do("choose "+file, func(ctx context.Context, _ *chromedp.Target) (chromedp.Void, error) {
		select {
		case node := <-opened:
			_, err := chromedp.Call(ctx, dom.SetFileInputFiles, dom.SetFileInputFilesParams{Files: []string{file}, BackendNodeID: node})
			return chromedp.Void{}, err
		case <-ctx.Done():
			return chromedp.Void{}, ctx.Err()
		}
	})
	intercept(false)
}

// Drop drags files from outside onto an element and lets them go.
func (p *Page) Drop(css string, files ...string) {
	x, y := p.middle(element(css))
	for _, kind := range []input.DispatchDragEventType{"dragEnter", "dragOver", "drop"} {
		if p.Err != nil {
			return
		}
		p.do("drop on "+css, func(ctx context.Context, _ *chromedp.Target) (chromedp.Void, error) {
			_, err := chromedp.Call(ctx, input.DispatchDragEvent, input.DispatchDragEventParams{Type: kind, X: x, Y: y,
				Data: &input.DragData{Items: []*input.DragDataItem{}, Files: files, DragOperationsMask: 1}})
			return chromedp.Void{}, err
		})
	}
}

// mouse is one event of the mouse.
func (p *Page) mouse(what string, kind input.DispatchMouseEventType, x, y float64, buttons, modifiers int64) {
	p.do(what, func(ctx context.Context, _ *chromedp.Target) (chromedp.Void, error) {
		e := input.DispatchMouseEventParams{Type: kind, X: x, Y: y, Modifiers: modifiers, Button: "left", Buttons: buttons, ClickCount: 1}
		_, err := chromedp.Call(ctx, input.DispatchMouseEvent, e)
		return chromedp.Void{}, err
	})
}

// Type types as on a keyboard, to whatever has the focus.
func (p *Page) Type(keys string) { p.do("type "+keys, chromedp.KeyEvent(keys)) }

// Press presses single keys one after the other, as shortcuts: a browser does
// not insert the letter of a key press that the page has taken.
func (p *Page) Press(keys string) {
	for _, k := range keys {
		p.do("press "+string(k), func(ctx context.Context, _ *chromedp.Target) (chromedp.Void, error) {
			for _, kind := range []input.DispatchKeyEventType{input.DispatchKeyEventTypeRawKeyDown, input.DispatchKeyEventTypeKeyUp} {
				if _, err := chromedp.Call(ctx, input.DispatchKeyEvent, input.DispatchKeyEventParams{Type: kind, Key: string(k)}); err != nil {
					return chromedp.Void{}, err
				}
			}
			return chromedp.Void{}, nil
		})
	}
}

// Chord presses a key with Control held.
func (p *Page) Chord(key string) {
	p.do("press Ctrl+"+key, chromedp.KeyEvent(key, chromedp.KeyModifiers(chromedp.ModifierCtrl)))
}

// Point moves the pointer over an element.
func (p *Page) Point(css string) {
	x, y := p.middle(element(css))
	p.mouse("point at "+css, "mouseMoved", x, y, 0, 0)
}

// Drag takes an element by its middle and lets it go some pixels further, in a
// few steps as a hand does; free with Alt held.
func (p *Page) Drag(css string, dx, dy float64, free bool) {
	x, y := p.middle(element(css))
	var alt int64
	if free {
		alt = 1
	}
	mouse := func(kind input.DispatchMouseEventType, share float64, buttons int64) {
		p.mouse("drag "+css, kind, x+dx*share, y+dy*share, buttons, alt)
	}
	mouse("mousePressed", 0, 1)
	for _, share := range []float64{0.3, 0.6, 0.9, 1} {
		mouse("mouseMoved", share, 1)
	}
	mouse("mouseReleased", 1, 0)
}

// Touch makes the window a tablet's, now and for what is opened after: it is touched, and has no
// pointer that hovers.
func (p *Page) Touch(w, h int64) {
	p.tablet = chromedp.EmulateViewport(w, h, chromedp.EmulateTouch, chromedp.EmulateMobile)
	p.do("touch", p.tablet)
}

// touch is one event of a finger.
func (p *Page) touch(what string, kind input.DispatchTouchEventType, points ...*input.TouchPoint) {
	if points == nil {
		points = []*input.TouchPoint{} // none is left on the glass
	}
	p.do(what, func(ctx context.Context, _ *chromedp.Target) (chromedp.Void, error) {
		_, err := chromedp.Call(ctx, input.DispatchTouchEvent, input.DispatchTouchEventParams{Type: kind, TouchPoints: points})
		return chromedp.Void{}, err
	})
}

// Tap touches the middle of an element with a finger.
func (p *Page) Tap(css string) {
	x, y := p.middle(element(css))
	p.touch("tap "+css, input.DispatchTouchEventTypeTouchStart, &input.TouchPoint{X: x, Y: y})
	p.touch("tap "+css, input.DispatchTouchEventTypeTouchEnd)
}

// Draw takes an element with a finger and lets it go some pixels further.
func (p *Page) Draw(css string, dx, dy float64) {
	x, y := p.middle(element(css))
	p.touch("draw "+css, input.DispatchTouchEventTypeTouchStart, &input.TouchPoint{X: x, Y: y})
	for _, share := range []float64{0.3, 0.6, 0.9, 1} {
		p.touch("draw "+css, input.DispatchTouchEventTypeTouchMove, &input.TouchPoint{X: x + dx*share, Y: y + dy*share})
	}
	p.touch("draw "+css, input.DispatchTouchEventTypeTouchEnd)
}

// Printed is the page as the browser's print view makes it: a PDF.
func (p *Page) Printed() []byte {
	var raw []byte
	yes := true
	p.do("print", func(ctx context.Context, _ *chromedp.Target) (chromedp.Void, error) {
		r, err := chromedp.Call(ctx, page.PrintToPDF, page.PrintToPDFParams{PreferCSSPageSize: &yes, PrintBackground: &yes})
		if err == nil {
			raw = r.Data
		}
		return chromedp.Void{}, err
	})
	return raw
}

// Text is an element's text as shown.
func (p *Page) Text(css string) string {
	p.See(css)
	return Value[string](p, fmt.Sprintf("document.querySelector(%q).innerText", css))
}

// Run runs JavaScript for what it does.
func (p *Page) Run(js string) { Value[bool](p, "(() => { "+js+"; return true; })()") }

// Picture takes the window as a PNG.
func (p *Page) Picture() []byte {
	p.Wait("document.fonts.status === 'loaded'")
	if p.Err != nil {
		return nil
	}
	raw, err := chromedp.Run(p.ctx, chromedp.CaptureScreenshot())
	if err != nil {
		p.Err = err
	}
	return raw
}

// Value is what a JavaScript expression gives.
func Value[T any](p *Page, js string) T {
	var zero T
	if p.Err != nil {
		return zero
	}
	ctx, cancel := context.WithTimeout(p.ctx, p.timeout)
	defer cancel()
	v, err := chromedp.Run(ctx, chromedp.Evaluate[T](js, chromedp.EvalAwaitPromise))
	if err != nil {
		p.Err = fmt.Errorf("%s: %w", js, err)
		return zero
	}
	return v
}
