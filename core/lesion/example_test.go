package lesion_test

import (
	"fmt"

	"obturon/core/lesion"
	"obturon/core/notation"
)

func ExampleClassify() {
	tooth := notation.MustParse("35")
	findings := []lesion.Finding{
		{Kind: lesion.FissureCaries, Site: lesion.Central, Depth: lesion.OuterDentin},
		{Kind: lesion.ProximalCaries, Site: lesion.Distal, Depth: lesion.OuterDentin},
	}
	class, surfaces := lesion.Classify(findings, tooth)
	fmt.Println("Class", class, surfaces)
	// Output: Class II [occlusal distal]
}

func ExampleChoices() {
	for _, kind := range lesion.Choices(notation.MustParse("83"))[:2] {
		fmt.Print(kind.Label, ":")
		for _, site := range kind.Sites {
			fmt.Print(" ", site.Label, ";")
		}
		fmt.Println()
	}
	// Output:
	// Proximal caries: Mesial; Distal;
	// Cervical caries: Facial; Lingual;
}

func ExampleValidate() {
	f := lesion.Finding{Kind: lesion.FissureCaries, Site: lesion.Central, Depth: lesion.OuterDentin}
	for _, fault := range lesion.Validate(f, notation.MustParse("13")) {
		fmt.Println(fault.Field+":", fault.Message)
	}
	// Output:
	// site: an anterior tooth has no central fissure
}
