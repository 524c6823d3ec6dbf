// Command client does a job over the API with a client that oapi-codegen makes of its document: a display is found, judged on a bracket,
// put on the wall of a saved job, its template and its steps are taken. It ends with an error at the first thing that is not as promised.
package main

import (
	"bytes"
	"context"
	"fmt"
	"os"
)

func main() {
	if err := job(context.Background(), os.Args[1]); err != nil {
		fmt.Fprintln(os.Stderr, err)
		os.Exit(1)
	}
}

func job(ctx context.Context, at string) error {
	c, err := NewClientWithResponses(at)
	if err != nil {
		return err
	}
	q := "pane 49"
	displays, err := c.GetDisplaysWithResponse(ctx, &GetDisplaysParams{Q: &q})
	if err != nil || displays.JSON200 == nil || len(*displays.JSON200) == 0 {
		return fmt.Errorf("displays: %v %+v", err, displays)
	}
	id, bracket := (*displays.JSON200)[0].Id, "sill-40"
	bench, err := c.PostBenchWithResponse(ctx, Request{DisplayId: &id, BracketId: &bracket})
	if err != nil || bench.JSON200 == nil {
		return fmt.Errorf("bench: %v %s", err, bench.Body)
	}
	if v := bench.JSON200.Said.Verdict; v != "fits_with_conditions" || len(bench.JSON200.Pairing.Checks) == 0 {
		return fmt.Errorf("bench: %s", v)
	}
	saved := "mill-lane-counter"
	wall, err := c.PostWallWithResponse(ctx, WallRequest{Request: Request{JobId: &saved}})
	if err != nil || wall.JSON200 == nil || len(wall.JSON200.Placements) == 0 || len(wall.JSON200.Placements[0].Points) < 4 {
		return fmt.Errorf("wall: %v %.300s", err, wall.Body)
	}
	template, err := c.PostTemplateWithResponse(ctx, &PostTemplateParams{Format: PostTemplateParamsFormatPdf},
		PostTemplateJSONRequestBody{JobId: &saved})
	if err != nil || !bytes.HasPrefix(template.Body, []byte("%PDF-")) {
		return fmt.Errorf("template: %v %.300s", err, template.Body)
	}
	steps, err := c.PostStepsWithResponse(ctx, &PostStepsParams{Format: PostStepsParamsFormatJson}, PostStepsJSONRequestBody{JobId: &saved})
	if err != nil || steps.JSON200 == nil {
		return fmt.Errorf("steps: %v %.300s", err, steps.Body)
	}
	wrong := "no such job"
	refused, err := c.PostWallWithResponse(ctx, WallRequest{Request: Request{JobId: &wrong}})
	if err != nil || refused.JSON200 != nil || refused.ApplicationproblemJSON4XX == nil {
		return fmt.Errorf("refused: %v %s", err, refused.Body)
	}
	fmt.Println("a display, a bench, a wall, a template, steps, and a refusal that is told")
	return nil
}
