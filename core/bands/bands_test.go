package bands

import (
	"testing"

	"talloak/core/units"
)

func TestBandsAreInOrder(t *testing.T) {
	for _, e := range all {
		known := 0
		for _, r := range []Region{Region1, Region2, Region3} {
			b, ok := Find(e.name, r)
			if !ok {
				continue
			}
			known++
			if !(b.FromHz < b.ToHz) || !b.Contains(b.UsualHz) || b.Channel == "" || b.Source == "" {
				t.Errorf("%+v", b)
			}
			if name, is := Reserved(b.UsualHz); is {
				t.Errorf("%s is measured on %s", b.Name, name)
			}
		}
		if known == 0 {
			t.Errorf("%s is nowhere", e.name)
		}
	}
	for _, name := range []string{"3m", "", "gmrs nothing", "146.52", "146.52 MHz", "350", "1.5e400"} {
		if b, ok := Find(name, Region2); ok {
			t.Errorf("%q is found: %+v", name, b)
		}
	}
}

// TestEdges: the edges of the amateur service by region (ITU Radio Regulations, Article 5;
// 47 CFR 97.301 for region 2, from memory).
func TestEdges(t *testing.T) {
	for _, c := range []struct {
		name     string
		r        Region
		from, to units.Hertz
	}{
		{"80m", Region1, 3.5e6, 3.8e6}, {"80m", Region2, 3.5e6, 4e6}, {"80m", Region3, 3.5e6, 3.9e6}, {"40m", Region2, 7e6, 7.3e6}, {"30m", 0, 10.1e6, 10.15e6},
		{"17m", 0, 18.068e6, 18.168e6}, {"12m", 0, 24.89e6, 24.99e6}, {"2m", Region1, 144e6, 146e6}, {"2M", 0, 144e6, 148e6}, {"70CM", Region1, 430e6, 440e6}, {"1.25m", 0, 222e6, 225e6},
	} {
		if b, ok := Find(c.name, c.r); !ok || b.FromHz != c.from || b.ToHz != c.to {
			t.Errorf("%s in region %d: %+v", c.name, c.r, b)
		}
	}
	for _, name := range []string{"33cm", "1.25m"} {
		if _, ok := Find(name, Region1); ok {
			t.Errorf("%s is no band of region 1", name)
		}
	}
}

// TestChannels: frequencies as 47 CFR 95.563, 95.963, 95.1763, 95.2763, ECC Decision (15)05
// and Appendix 18 of the Radio Regulations list them (from memory).
func TestChannels(t *testing.T) {
	at := func(band, name string) Channel {
		b, _ := Find(band, 0)
		for _, c := range b.Channels() {
			if c.Name == name {
				return c
			}
		}
		return Channel{}
	}
	for _, c := range []struct {
		band, name string
		hz         units.Hertz
		group      string
		mark       Mark
	}{
		{"CB", "9", 27.065e6, "", Emergency}, {"CB", "19", 27.185e6, "", Calling}, {"CB", "23", 27.255e6, "", ""}, {"CB", "24", 27.235e6, "", ""}, {"CB", "40", 27.405e6, "", ""},
		{"GMRS", "1", 462.5625e6, "interstitial", ""}, {"GMRS", "14", 467.7125e6, "467", ""}, {"GMRS", "22", 462.725e6, "main", ""}, {"GMRS main", "15 input", 467.55e6, "main", ""},
		{"FRS", "8", 467.5625e6, "467", ""}, {"FRS 2w", "7", 462.7125e6, "2W", ""}, {"MURS", "5", 154.6e6, "", ""}, {"PMR446", "16", 446.19375e6, "", ""},
		{"marine", "16", 156.8e6, "", Emergency}, {"marine", "70", 156.525e6, "", Data}, {"marine", "6", 156.3e6, "", ""}, {"marine", "88", 157.425e6, "", ""}, {"marine low", "67", 156.375e6, "low", ""},
	} {
		if got := at(c.band, c.name); got.Hz < c.hz-1 || got.Hz > c.hz+1 || got.Group != c.group || got.Mark != c.mark {
			t.Errorf("%s %s: %+v", c.band, c.name, got)
		}
	}
	main, _ := Find("GMRS main", 0)
	if !main.Contains(462.6e6) || main.Contains(462.5875e6) || !main.Contains(467.6e6) || main.Contains(465e6) {
		t.Error("a group holds what is not its own")
	}
	if c, ok := main.ChannelAt(462.6e6); !ok || c.Name != "17" {
		t.Errorf("%+v", c)
	}
	if len(Groups("gmrs")) != 3 || Groups("2m") != nil {
		t.Error("groups")
	}
}

// TestAnyFrequency: what lies in no band is a place of its own, under one name.
func TestAnyFrequency(t *testing.T) {
	a, ok := Find("350.5", 0)
	if b, again := Find(a.Name, 0); !ok || !again || a != b || !a.IsPlace() || a.UsualHz != 350.5e6 || !a.Contains(350.5e6) || a.Contains(351e6) {
		t.Errorf("%+v", a)
	}
	if b, ok := Find("25 mhz", 0); !ok || b.Name != "25 MHz" {
		t.Errorf("%+v", b)
	}
	// 147 MHz is no amateur frequency in region 1, but lies where land mobile radios are.
	if in := At(147e6, Region1); len(in) != 1 || in[0].Name != "VHF" {
		t.Errorf("%+v", in)
	}
	if in := At(146e6, Region2); len(in) != 2 || in[0].Name != "2m" {
		t.Errorf("%+v", in)
	}
}
