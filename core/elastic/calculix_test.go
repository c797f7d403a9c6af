package elastic

import (
	"bufio"
	"bytes"
	"context"
	"flag"
	"fmt"
	"maps"
	"math"
	"os"
	"os/exec"
	"path/filepath"
	"slices"
	"strconv"
	"strings"
	"testing"

	"gonum.org/v1/gonum/spatial/r3"
)

var update = flag.Bool("update", false, "store what ccx answers")

// slotted is a block of two materials with a slot, as of a tooth with its cavity, and a load
// on either side; flat is one layer of it that cannot spread.
func slotted(flat bool) (*Body, map[Node]r3.Vec) {
	cells, load := [3]int{8, 7, 4}, 10.0
	if flat {
		cells[2], load = 0, 2
	}
	b := block(cells, 0.5, 18000, func(n Node) [3]bool { h := n[1] == 0; return [3]bool{h, h, h} })
	for cell := range b.Modulus {
		switch i, j, _ := b.placeOf(cell); {
		case j >= 4 && i >= 3 && i < 5:
			b.Modulus[cell] = 0
		case j >= 5 || i == 0 || i == 7:
			b.Modulus[cell] = 84000
		}
	}
	return b, map[Node]r3.Vec{{2, 7, cells[2] / 2}: {X: -load, Y: -load}, {6, 7, cells[2] / 2}: {X: load / 2, Y: -load}}
}

// deck is the body as an input file of ccx: a slice as one layer of cubes that cannot move
// across.
func deck(b *Body, loads map[Node]r3.Vec) string {
	var f strings.Builder
	layers := max(b.Cells[2], 1)
	number := func(n Node) int { return 1 + n[0] + (b.Cells[0]+1)*(n[1]+(b.Cells[1]+1)*n[2]) }
	fmt.Fprintln(&f, "*NODE, NSET=ALL")
	for k := 0; k <= layers; k++ {
		for j := 0; j <= b.Cells[1]; j++ {
			for i := 0; i <= b.Cells[0]; i++ {
				across := float64(k) * b.Side
				if b.Cells[2] == 0 {
					across = float64(k) // a slice is one millimetre thick
				}
				fmt.Fprintf(&f, "%d, %g, %g, %g\n", number(Node{i, j, k}), float64(i)*b.Side, float64(j)*b.Side, across)
			}
		}
	}
	sets := map[float64][]int{}
	fmt.Fprintln(&f, "*ELEMENT, TYPE=C3D8I, ELSET=BODY")
	for cell, e := range b.Modulus {
		if e == 0 {
			continue
		}
		i, j, k := b.placeOf(cell)
		fmt.Fprintf(&f, "%d", cell+1)
		for _, c := range []int{0, 1, 3, 2, 4, 5, 7, 6} {
			fmt.Fprintf(&f, ", %d", number(corner(i, j, k, c)))
		}
		fmt.Fprintln(&f)
		sets[e] = append(sets[e], cell+1)
	}
	for _, e := range slices.Sorted(maps.Keys(sets)) {
		cells := sets[e]
		fmt.Fprintf(&f, "*ELSET, ELSET=E%g\n", e)
		for _, c := range cells {
			fmt.Fprintf(&f, "%d\n", c)
		}
		fmt.Fprintf(&f, "*MATERIAL, NAME=M%g\n*ELASTIC\n%g, %g\n*SOLID SECTION, ELSET=E%g, MATERIAL=M%g\n", e, e, b.Poisson, e, e)
	}
	fmt.Fprintln(&f, "*BOUNDARY")
	for n := range b.Held {
		fmt.Fprintf(&f, "%d, 1, 3\n", number(n))
		if b.Cells[2] == 0 {
			fmt.Fprintf(&f, "%d, 1, 3\n", number(Node{n[0], n[1], 1}))
		}
	}
	if b.Cells[2] == 0 {
		fmt.Fprintln(&f, "ALL, 3, 3")
	}
	fmt.Fprintln(&f, "*STEP\n*STATIC\n*CLOAD")
	for n, force := range loads {
		for axis, v := range []float64{force.X, force.Y, force.Z} {
			if b.Cells[2] == 0 { // on both of the layer's sides
				fmt.Fprintf(&f, "%d, %d, %g\n%d, %d, %g\n", number(n), axis+1, v/2, number(Node{n[0], n[1], 1}), axis+1, v/2)
			} else {
				fmt.Fprintf(&f, "%d, %d, %g\n", number(n), axis+1, v)
			}
		}
	}
	fmt.Fprintln(&f, "*NODE PRINT, NSET=ALL\nU\n*EL PRINT, ELSET=BODY\nS\n*END STEP")
	return f.String()
}

// answers reads ccx's displacements by node and its mean stresses by element.
func answers(t *testing.T, dat []byte) (moved map[int]r3.Vec, stressed map[int]Stress) {
	t.Helper()
	moved, stressed = map[int]r3.Vec{}, map[int]Stress{}
	stresses := false
	lines := bufio.NewScanner(bytes.NewReader(dat))
	for lines.Scan() {
		fields := strings.Fields(lines.Text())
		if strings.Contains(lines.Text(), "stresses") {
			stresses = true
		}
		var figures []float64
		for _, field := range fields {
			v, err := strconv.ParseFloat(field, 64)
			if err != nil {
				break
			}
			figures = append(figures, v)
		}
		switch {
		case !stresses && len(figures) == 4:
			moved[int(figures[0])] = r3.Vec{X: figures[1], Y: figures[2], Z: figures[3]}
		case stresses && len(figures) == 8: // at one of eight points: xx yy zz xy xz yz
			s := stressed[int(figures[0])]
			for k, of := range []int{2, 3, 4, 5, 7, 6} {
				s[k] += figures[of] / 8
			}
			stressed[int(figures[0])] = s
		}
	}
	if len(moved) == 0 || len(stressed) == 0 {
		t.Fatal("ccx answered nothing")
	}
	return moved, stressed
}

// The same mesh under the same loads in ccx: live where it is installed, else what it
// answered when its answers were stored beside its input.
func TestAgreesWithCalculix(t *testing.T) {
	for name, flat := range map[string]bool{"space": false, "slice": true} {
		t.Run(name, func(t *testing.T) {
			b, loads := slotted(flat)
			dat := calculix(t, name, deck(b, loads))
			moved, stressed := answers(t, dat)
			d := solved(t, b, loads)
			number := func(n Node) int { return 1 + n[0] + (b.Cells[0]+1)*(n[1]+(b.Cells[1]+1)*n[2]) }
			most, off := 0.0, 0.0
			for _, n := range d.system.level.nodes {
				most = math.Max(most, r3.Norm(d.At(n)))
				off = math.Max(off, r3.Norm(r3.Sub(d.At(n), moved[number(n)])))
			}
			mostStress, offStress := 0.0, 0.0
			for cell := range b.Modulus {
				i, j, k := b.placeOf(cell)
				s, ok := d.StressIn(i, j, k)
				if !ok {
					continue
				}
				for c := range s {
					mostStress, offStress = math.Max(mostStress, math.Abs(s[c])), math.Max(offStress, math.Abs(s[c]-stressed[cell+1][c]))
				}
			}
			t.Logf("displacements off by %.2g, stresses by %.2g of the largest", off/most, offStress/mostStress)
			if off > 0.02*most || offStress > 0.02*mostStress {
				t.Errorf("displacements off by %.4g of %.4g mm, stresses by %.4g of %.4g MPa", off, most, offStress, mostStress)
			}
		})
	}
}

func calculix(t *testing.T, name, input string) []byte {
	t.Helper()
	stored := filepath.Join("testdata", name+".dat")
	if _, err := exec.LookPath("ccx"); err != nil {
		dat, err := os.ReadFile(stored)
		if err != nil {
			t.Fatal(err)
		}
		return dat
	}
	dir := t.TempDir()
	if err := os.WriteFile(filepath.Join(dir, "body.inp"), []byte(input), 0o600); err != nil {
		t.Fatal(err)
	}
	run := exec.CommandContext(context.Background(), "ccx", "body")
	run.Dir = dir
	if out, err := run.CombinedOutput(); err != nil {
		t.Fatalf("ccx: %v\n%.2000s", err, out)
	}
	dat, err := os.ReadFile(filepath.Join(dir, "body.dat"))
	if err != nil {
		t.Fatal(err)
	}
	if *update {
		if err := os.MkdirAll("testdata", 0o755); err != nil {
			t.Fatal(err)
		}
		for file, content := range map[string][]byte{stored: dat, filepath.Join("testdata", name+".inp"): []byte(input)} {
			if err := os.WriteFile(file, content, 0o644); err != nil {
				t.Fatal(err)
			}
		}
	}
	return dat
}

// The same block as BenchmarkSlottedBlock in ccx, reading and writing included.
func BenchmarkCalculix(b *testing.B) {
	if _, err := exec.LookPath("ccx"); err != nil {
		b.Skip("ccx is not installed")
	}
	body, loads := large()
	dir := b.TempDir()
	if err := os.WriteFile(filepath.Join(dir, "body.inp"), []byte(deck(body, loads)), 0o600); err != nil {
		b.Fatal(err)
	}
	for b.Loop() {
		run := exec.CommandContext(context.Background(), "ccx", "body")
		run.Dir = dir
		if out, err := run.CombinedOutput(); err != nil {
			b.Fatalf("ccx: %v\n%.2000s", err, out)
		}
	}
}
