package instrument

import (
	"go/ast"
	"go/parser"
	"go/token"
	"math"
	"strconv"
	"testing"
)

func TestProfilesHaveTheHeadsSizes(t *testing.T) {
	for _, i := range All {
		if i.Head == nil {
			continue
		}
		widest, top := 0.0, 0.0
		for _, p := range i.Head.Profile() {
			if p[0] < -1e-9 || p[1] < -1e-9 {
				t.Errorf("%s: a point at %v", i.ID, p)
			}
			widest, top = math.Max(widest, p[0]), math.Max(top, p[1])
		}
		if math.Abs(2*widest-i.Head.Diameter) > 0.02 {
			t.Errorf("%s is %.3f wide, want %.2f", i.ID, 2*widest, i.Head.Diameter)
		}
		if math.Abs(top-i.Head.Length) > 0.2*i.Head.Length {
			t.Errorf("%s is %.2f long, want %.2f", i.ID, top, i.Head.Length)
		}
	}
}

func TestTheKitNamesEachInstrumentOnce(t *testing.T) {
	seen := map[ID]bool{}
	for _, i := range All {
		if seen[i.ID] || i.Name == "" || i.Use == "" {
			t.Errorf("%+v stands twice, or says too little", i)
		}
		seen[i.ID] = true
		if b := i.Blade; b != nil && !(b.Width > 0 && b.Length > 0 && b.Centigrades >= 0 && b.Centigrades < 50) {
			t.Errorf("%s has no blade: %+v", i.ID, b)
		}
	}
}

// Every instrument that the package names stands in the kit: a step can take no
// other, as its trays are made of these names.
func TestEveryNameStandsInTheKit(t *testing.T) {
	file, err := parser.ParseFile(token.NewFileSet(), "all.go", nil, 0)
	if err != nil {
		t.Fatal(err)
	}
	names := 0
	for _, d := range file.Decls {
		declared, ok := d.(*ast.GenDecl)
		if !ok || declared.Tok != token.CONST {
			continue
		}
		for _, s := range declared.Specs {
			spec := s.(*ast.ValueSpec)
			id, err := strconv.Unquote(spec.Values[0].(*ast.BasicLit).Value)
			if err != nil {
				t.Fatal(err)
			}
			names++
			if _, ok := Find(ID(id)); !ok {
				t.Errorf("%s (%q) is named, but the kit lacks it", spec.Names[0].Name, id)
			}
		}
	}
	if names != len(All) {
		t.Errorf("%d names for %d instruments", names, len(All))
	}
}

func TestWhatCutsHasAProfileOrABlade(t *testing.T) {
	for id, cuts := range map[ID]bool{Football: true, LongTaper: true, QuarterRound: true, Hatchet: true, Chisel: true, MarginTrimmer: true, Pins: false, Putty: false} {
		if i := MustFind(id); (i.Head != nil || i.Blade != nil) != cuts {
			t.Errorf("%s cuts: %v", id, !cuts)
		}
	}
}

func TestFind(t *testing.T) {
	if bur, ok := Find(Pear); !ok || bur.Head.Diameter != 0.8 || bur.Head.Length != 1.5 {
		t.Errorf("the pear is %+v", bur)
	}
	if _, ok := Find("999"); ok {
		t.Error("an unknown bur was found")
	}
}
