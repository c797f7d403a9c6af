//go:build tools

// Package tools pins the development tools apart from the product's modules.
package tools
