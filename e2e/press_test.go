package e2e

import (
	"context"
	"fmt"
	"time"

	c "github.com/chromedp/chromedp"
)

// press clicks an element as a person would: once it can be used, lies still and is what the
// pointer meets. An answer that arrives between the look and the press can still move it away;
// a press that met something else is made again.
func press(css string) c.Action[c.Void] {
	look := fmt.Sprintf(`(() => {
		const e = document.querySelector(%q)
		if (!e || e.disabled) return []
		e.scrollIntoViewIfNeeded()
		const r = e.getClientRects()[0]
		if (!r || !r.width || !r.height) return []
		const at = [r.x + r.width / 2, r.y + r.height / 2], met = document.elementFromPoint(...at)
		if (!met || !(e.contains(met) || met.closest('label')?.control === e)) return []
		window.pressed = null
		addEventListener('pointerdown', (d) => (window.pressed = e.contains(d.target) || d.target.closest('label')?.control === e), {capture: true, once: true})
		return at
	})()`, css)
	return c.Func(func(ctx context.Context, target *c.Target) error {
		var last []float64
		for {
			at, err := c.Evaluate[[]float64](look)(ctx, target)
			if ctx.Err() != nil {
				return fmt.Errorf("%s could never be pressed: %w", css, ctx.Err())
			}
			if err == nil && len(at) == 2 && len(last) == 2 && at[0] == last[0] && at[1] == last[1] {
				if _, err := c.MouseClickXY(at[0], at[1])(ctx, target); err != nil {
					return err
				}
				// Where the press has led to another page, nothing is left to ask.
				if missed, err := c.Evaluate[bool]("window.pressed === false")(ctx, target); err != nil || !missed {
					return nil
				}
				at = nil
			}
			last = at
			select {
			case <-ctx.Done():
			case <-time.After(30 * time.Millisecond):
			}
		}
	})
}
