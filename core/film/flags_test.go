package film

import "testing"

// Facts that do not go together are told, and only those.
func TestContradictions(t *testing.T) {
	for _, c := range []struct {
		h     History
		coats int
		total float64
		want  FlagCode
	}{
		{History{Finish: FactoryFinish}, 3, 120, FlagFactoryCoats},
		{History{Finish: FactoryFinish}, 0, 120, ""},
		{History{Finish: Refinished, Coats: 4}, 4, 90, FlagUnderCoats},
		{History{Finish: Refinished, Coats: 4, Coat: 20}, 4, 90, ""},
		{History{Finish: Refinished, Coats: 4}, 4, 0, ""},
	} {
		got := c.h.Contradictions(c.coats, c.total)
		if (len(got) > 0) != (c.want != "") || len(got) > 0 && got[0].Code != c.want {
			t.Errorf("%+v with %v µm: %+v, want %q", c.h, c.total, got, c.want)
		}
	}
}
