// Package core holds the dentistry of Obturon: pure computation on teeth,
// lesions, preparations and their measurement. Its packages know nothing of
// HTTP, SQL, files, screens or the clock; a test keeps it so.
package core
