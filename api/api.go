// Package api has the contract that types of both sides are generated from, as it is written.
package api

import _ "embed"

// Contract is openapi.yaml.
//
//go:embed openapi.yaml
var Contract []byte
