package store

import (
	"encoding/json"
	"testing"

	"dynacor/core/run"
)

// BenchmarkDecode reads a usual entry back, as it is written and in full.
func BenchmarkDecode(b *testing.B) {
	c := run.Step{Step: "pull", Bolt: 7, Share: 60}
	short, err := encode(c)
	if err != nil {
		b.Fatal(err)
	}
	full, err := json.Marshal(c)
	if err != nil {
		b.Fatal(err)
	}
	for name, body := range map[string]string{"short": short, "full": string(full)} {
		b.Run(name, func(b *testing.B) {
			for b.Loop() {
				if _, err := decode(run.KindStep, body); err != nil {
					b.Fatal(err)
				}
			}
		})
	}
}
