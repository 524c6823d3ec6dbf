package api

import (
	"context"
	"time"

	"github.com/labstack/echo/v5"
)

// checksKey is where a request keeps how it is found out whether its person is let in still.
const checksKey = "checks"

// Checks sets how it is found out whether the person of a request is let in still.
func Checks(c *echo.Context, still func(context.Context) bool) { c.Set(checksKey, still) }

// noticed is how long a stream goes on to who is let in no more.
const noticed = 2 * time.Second

// Lasts is the context of an answer without end. It ends with its request, with the server, and soon after who asked is let in no more.
func Lasts(c *echo.Context, ending <-chan struct{}) (context.Context, context.CancelFunc) {
	ctx, cancel := context.WithCancel(c.Request().Context())
	still, _ := c.Get(checksKey).(func(context.Context) bool)
	if still == nil {
		still = func(context.Context) bool { return true } // of a test without a door
	}
	go func() {
		defer cancel()
		again := time.NewTicker(noticed)
		defer again.Stop()
		for {
			select {
			case <-ctx.Done():
				return
			case <-ending:
				return
			case <-again.C:
				if !still(ctx) {
					return
				}
			}
		}
	}()
	return ctx, cancel
}
