package main

import (
	"bytes"
	"strings"
	"testing"

	"obturon/internal/device"
)

func TestLinesPressPedals(t *testing.T) {
	var out bytes.Buffer
	if err := pressed(strings.NewReader("\nb\np\nx\n"), &out, &device.Pedal{}); err != nil {
		t.Fatal(err)
	}
	want := "next, heard by 0\nback, heard by 0\npause, heard by 0\nEnter: next, b: back, p: pause\n"
	if out.String() != want {
		t.Errorf("said %q", out.String())
	}
}
