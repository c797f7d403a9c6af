package api

import (
	"context"
	"encoding/json"
	"fmt"

	"obturon/core/fill"
	"obturon/core/intake"
	"obturon/internal/document"
	"obturon/internal/store"
)

// GetProducts answers what the practice fills with.
func (s *server) GetProducts(ctx context.Context, _ GetProductsRequestObject) (GetProductsResponseObject, error) {
	own, version, err := s.ownProducts(ctx)
	return GetProducts200JSONResponse(productsAnswer(own, version)), err
}

// SaveProducts keeps what the practice fills with.
func (s *server) SaveProducts(ctx context.Context, r SaveProductsRequestObject) (SaveProductsResponseObject, error) {
	own := document.ProductsOf(r.Body.Products)
	var faults intake.Faults
	for _, f := range fill.Check(own) {
		faults = append(faults, intake.Fault{Path: fmt.Sprintf("$.products[%d].%s", f.Product, f.Field), Message: f.Message})
	}
	if len(faults) > 0 {
		return nil, unprocessable("These products cannot be kept", faults)
	}
	text, err := json.Marshal(r.Body.Products)
	if err != nil {
		return nil, err
	}
	kept, err := s.keep(ctx, store.FillProducts, r.Body.Version, text, problem{
		title: "The products were changed meanwhile", detail: "Someone else kept them: read them anew and change those. Nothing was overwritten.",
	})
	if err != nil {
		return nil, err
	}
	return SaveProducts200JSONResponse(productsAnswer(own, kept.Version)), nil
}

// products are what the practice's fillings are made of.
func (s *server) products(ctx context.Context) (fill.Products, error) {
	own, _, err := s.ownProducts(ctx)
	return fill.With(own), err
}

func (s *server) ownProducts(ctx context.Context) (own []fill.Product, version int, err error) {
	kept, err := s.Store.PracticeDocument(ctx, store.FillProducts, currentUser(ctx).PracticeID)
	if err != nil || kept == nil {
		return nil, 0, err
	}
	var written []Product
	if err := json.Unmarshal(kept.Document, &written); err != nil {
		return nil, 0, fmt.Errorf("reading the products: %w", err)
	}
	return document.ProductsOf(written), kept.Version, nil
}

func productsAnswer(own []fill.Product, version int) PracticeProducts {
	answer := PracticeProducts{Version: version, Products: document.WrittenProducts(own), Kinds: []ProductKindOf{}, Notes: []ProductNote{}}
	for _, k := range fill.Kinds {
		kind := ProductKindOf{Kind: k, Name: k.Name(), Usual: fill.UsualProduct(k).Name, Figures: []ProductFigure{}}
		for _, f := range fill.Figures(k) {
			kind.Figures = append(kind.Figures, ProductFigure{Id: f.ID, Label: f.Label, Unit: f.Unit, Usual: f.Usual, Least: f.Least, Most: f.Most})
		}
		answer.Kinds = append(answer.Kinds, kind)
	}
	for n, p := range own {
		if text := p.Fallen(); text != "" {
			answer.Notes = append(answer.Notes, ProductNote{Product: n, Text: text})
		}
	}
	return answer
}
