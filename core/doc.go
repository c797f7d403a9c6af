// Package core holds the dentistry of Obturon: pure computation on teeth,
// lesions, cavities and their measurement. A case goes down through its packages
// once, each taking what the last one gave: intake, advice, lesion, design (with
// the forms in cavity), measure, assess, drawing, sequence; pipeline walks them, and the example walks it.
// Its packages know nothing of HTTP, SQL, files, screens or the clock; a test keeps it so.
package core
