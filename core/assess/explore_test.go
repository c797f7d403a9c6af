package assess

import (
	"fmt"
	"os"
	"testing"
	"time"

	"obturon/core/anatomy"
	"obturon/core/face"
	"obturon/core/lesion"
	"obturon/core/measure"
	"obturon/core/notation"
	"obturon/core/school"
)

func TestExplore(t *testing.T) {
	only := os.Getenv("TEETH")
	for _, tooth := range notation.All() {
		if !tooth.Right() || only != "" && only != tooth.String() {
			continue
		}
		age := 30.0
		schools := []string{"board", "traditional", "adhesive"}
		if tooth.Primary() {
			age, schools = 7, []string{"primary"}
		}
		m, err := anatomy.Build(tooth, anatomy.Own{}, age, 0.1)
		if err != nil {
			t.Fatal(err)
		}
		m.Skin()
		for _, site := range face.Sites {
			kind := lesion.CervicalCaries
			class := face.ClassOf(site)
			switch class {
			case lesion.ClassIII:
				kind = lesion.ProximalCaries
				if !tooth.Anterior() {
					continue
				}
			case lesion.ClassIV:
				kind = lesion.Fracture
			case lesion.ClassI:
				kind = lesion.PitCaries
			}
			if want := os.Getenv("SITE"); want != "" && want != string(site) {
				continue
			}
			f := lesion.Finding{Kind: kind, Site: site, Depth: "outer_dentin"}
			if len(lesion.Validate(f, tooth)) > 0 {
				continue
			}
			l, err := lesion.New(m, f)
			if err != nil {
				fmt.Println(tooth, site, "LESION", err)
				continue
			}
			var facing *anatomy.Facing
			for _, id := range schools {
				s, _ := school.Get(id)
				for _, material := range []string{"amalgam", "composite"} {
					styles := face.StylesOf(class)
					if len(styles) == 0 || material == "amalgam" {
						styles = []face.Style{""}
					}
					if class == lesion.ClassIV && material == "amalgam" {
						continue
					}
					for _, style := range styles {
						r := face.Request{Model: m, Site: site, Lesions: []lesion.Lesion{l}, School: s, Material: material, Style: style, Gingiva: anatomy.GingivaAt(age), Facing: facing}
						t0 := time.Now()
						d, err := face.Propose(r)
						if err != nil {
							fmt.Println(tooth, site, id, material, style, "ERR", err)
							continue
						}
						t1 := time.Now()
						c, _ := face.Build(r, d)
						t2 := time.Now()
						p := measure.NewPrepared(m, m.Surface.Uncut().Carve(c))
						t3 := time.Now()
						checks := Face(FaceSubject{Face: p.Face(c.Frame), Design: d, Lesions: r.Lesions, School: s, Material: material, Gingival: m.GingivalLine(r.Gingiva)})
						t4 := time.Now()
						b := p.Bonded()
						fmt.Printf("%s %s %s %s %s closed=%v prop %d build %d cut %d judge %d ms; bonded %.1f/%.1f vol %.2f\n", tooth, site, id, material, style, p.Mesh.Closed(), t1.Sub(t0).Milliseconds(), t2.Sub(t1).Milliseconds(), t3.Sub(t2).Milliseconds(), t4.Sub(t3).Milliseconds(), b.Enamel, b.Dentin, m.Surface.Volume()-p.Mesh.Volume())
						if os.Getenv("ALL") != "" {
							fmt.Printf("   %+v\n", d)
						}
						for _, k := range checks {
							if os.Getenv("ALL") != "" || k.Verdict == Missed {
								fmt.Printf("   %-8s %-8s %-28s %.3f  [%v..%v] %s\n", k.Verdict, k.Severity, k.ID, k.Value, k.Target.Min, k.Target.Max, k.Where.Name)
							}
						}
					}
				}
			}
		}
	}
}
