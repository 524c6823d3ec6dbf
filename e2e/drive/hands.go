package drive

import (
	"context"
	"fmt"

	"github.com/chromedp/cdproto/cdp"
	"github.com/chromedp/cdproto/dom"
	"github.com/chromedp/cdproto/input"
	"github.com/chromedp/cdproto/page"
	"github.com/chromedp/chromedp"
)

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
func (p *Page) Type(keys string) {
	p.Typed = true
	p.do("type "+keys, chromedp.KeyEvent(keys))
}

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
