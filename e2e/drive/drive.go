// Package drive starts the real program on a database of its own, and a
// headless Chromium to use it with. The browser tests and the screenshots
// both stand on it.
package drive

import (
	"context"
	"fmt"
	"strings"
	"time"

	"github.com/chromedp/cdproto/browser"
	"github.com/chromedp/cdproto/cdp"
	"github.com/chromedp/cdproto/emulation"
	"github.com/chromedp/cdproto/log"
	"github.com/chromedp/cdproto/network"
	"github.com/chromedp/cdproto/page"
	"github.com/chromedp/cdproto/performance"
	"github.com/chromedp/cdproto/runtime"
	"github.com/chromedp/cdproto/webauthn"
	"github.com/chromedp/chromedp"
)

// Chromium starts the browser, with windows of 1280 × 800.
func Chromium(parent context.Context) (context.Context, context.CancelFunc, error) {
	opts := append(chromedp.DefaultExecAllocatorOptions[:],
		chromedp.ExecPath("chromium-headless-shell"), // without the frame of a browser, which takes as much work as the page
		chromedp.NoSandbox,                           // the tests run as root in containers
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
	Typed   bool                           // something was typed: for a moment there was half a figure
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

// Network cuts the tab off from the network, or joins it again.
func (p *Page) Network(on bool) {
	p.do("network", func(ctx context.Context, _ *chromedp.Target) (chromedp.Void, error) {
		rules := []*network.Conditions{}
		if !on {
			rules = append(rules, &network.Conditions{Offline: true, DownloadThroughput: -1, UploadThroughput: -1})
		}
		if _, err := chromedp.Call(ctx, network.EmulateNetworkConditionsByRule,
			network.EmulateNetworkConditionsByRuleParams{MatchedNetworkConditions: rules}); err != nil {
			return chromedp.Void{}, err
		}
		_, err := chromedp.Call(ctx, network.OverrideNetworkState,
			network.OverrideNetworkStateParams{Offline: !on, DownloadThroughput: -1, UploadThroughput: -1})
		return chromedp.Void{}, err
	})
}

// Spent is what the page has cost so far, in seconds, by the browser's names: ScriptDuration, TaskDuration.
func (p *Page) Spent() map[string]float64 {
	out := map[string]float64{}
	p.do("what it has cost", func(ctx context.Context, _ *chromedp.Target) (chromedp.Void, error) {
		if _, err := chromedp.Call(ctx, performance.Enable, performance.EnableParams{}); err != nil {
			return chromedp.Void{}, err
		}
		got, err := chromedp.Call(ctx, performance.GetMetrics, cdp.Empty{})
		if err == nil {
			for _, m := range got.Metrics {
				out[m.Name] = m.Value
			}
		}
		return chromedp.Void{}, err
	})
	return out
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
