package api

import (
	"bytes"
	"context"
	"encoding/json"
	"fmt"
	"net/http"
	"reflect"

	"obturon/core/pipeline"
	"obturon/internal/document"
	"obturon/internal/export"
	"obturon/internal/plan"
	"obturon/internal/store"
)

// notMade refuses a document of a revision; why is a sentence.
func notMade(why string) *problem {
	return &problem{
		status: http.StatusConflict, title: "This document of the revision cannot be made",
		detail: why + " Its plan.json and case.json are as they were fixed. Print the draft instead, or fix it anew and print that.",
	}
}

// revisionFile is a document of a revision: made once from what was fixed with it, then kept
// and always the same.
func (s *server) revisionFile(ctx context.Context, fixed *store.Revision, file string) ([]byte, error) {
	var content bytes.Buffer
	switch file {
	case "case.json":
		err := json.Indent(&content, fixed.CaseDocument, "", "  ")
		return content.Bytes(), err
	case "sitting.pdf":
		return nil, notMade("A sitting is planned from the drafts of several teeth, and no revision holds those.")
	}
	before, err := s.Store.RevisionFile(ctx, fixed.ID, file)
	if err != nil || before != nil {
		return before, err
	}
	if file == "plan.json" {
		written, err := s.fixedPlan(ctx, fixed)
		if err != nil {
			return nil, err
		}
		return s.Store.KeepRevisionFile(ctx, fixed.ID, file, written)
	}
	one, err := fixedOn(fixed)
	if err != nil {
		return nil, err
	}
	result, err := s.Planner.Evaluate(ctx, one.Case, plan.DefaultGrid)
	if err != nil {
		return nil, err
	}
	if err := sameAsFixed(fixed, result.KeptDocument(one.products)); err != nil {
		return nil, err
	}
	head := export.CardHead{
		Patient:  one.patient,
		Revision: fmt.Sprintf("revision %d, %s", fixed.Number, fixed.CreatedAt.Format("2006-01-02")),
		Practice: one.practice,
	}
	if err := s.makeFile(ctx, &content, file, one, result, head); err != nil {
		return nil, err
	}
	return s.Store.KeepRevisionFile(ctx, fixed.ID, file, content.Bytes())
}

// fixedPlan is the plan of a revision with the steps as they were proven, whatever the core says
// today. One that another version of the core fixed, or that was fixed before its kit was kept
// with it, is as it was written then.
func (s *server) fixedPlan(ctx context.Context, fixed *store.Revision) ([]byte, error) {
	var content bytes.Buffer
	if fixed.Basis == nil || fixed.CoreVersion != pipeline.CoreVersion {
		err := json.Indent(&content, fixed.PlanDocument, "", "  ")
		return content.Bytes(), err
	}
	one, err := fixedOn(fixed)
	if err != nil {
		return nil, err
	}
	proof, err := s.proven(ctx, one.provable())
	if err != nil {
		return nil, err
	}
	var d document.Plan
	if err := json.Unmarshal(fixed.PlanDocument, &d); err != nil {
		return nil, fmt.Errorf("reading the plan of revision %d: %w", fixed.Number, err)
	}
	encoder := json.NewEncoder(&content)
	encoder.SetIndent("", "  ")
	err = encoder.Encode(proof.Onto(d))
	return content.Bytes(), err
}

// sameAsFixed refuses to draw a plan that is not the one that was fixed: another version of
// the core comes to other figures.
func sameAsFixed(fixed *store.Revision, now document.Plan) error {
	if fixed.CoreVersion != pipeline.CoreVersion {
		return notMade(
			fmt.Sprintf(
				"It was fixed by version %s of the core and not printed then; this is %s, which may come to other figures.",
				fixed.CoreVersion,
				pipeline.CoreVersion,
			),
		)
	}
	text, err := json.Marshal(now)
	if err != nil {
		return err
	}
	before, err := unproven(fixed.PlanDocument)
	if err != nil {
		return fmt.Errorf("reading the plan of revision %d: %w", fixed.Number, err)
	}
	after, err := unproven(text)
	if err != nil {
		return err
	}
	if !reflect.DeepEqual(before, after) {
		return notMade(
			"Planned again from what was fixed, it comes to other figures than its plan.json: another machine or version computed those.",
		)
	}
	return nil
}

// unproven is a plan as its values, without the steps that cutting it proved.
func unproven(text []byte) (values map[string]any, err error) {
	err = json.Unmarshal(text, &values)
	delete(values, "proven")
	return values, err
}
