package line

import (
	"strings"
	"testing"
)

// TestThings: what is said is what is kept, what is not said is typical and marked, and a rating
// that protects something is never guessed.
func TestThings(t *testing.T) {
	for text, want := range map[string]string{
		"inline meter 100-500MHz 5% 15/60W":  "inline meter 100 to 500 MHz, 15/60 W: reads 100 to 500 MHz; scales to 15 and 60 W; ±5 % of the reading | takes 0.1 dB; last digit 0.01 W; stands 60 W all the time; SWR 1.1",
		"pad 40dB 10W 3GHz 0.5":              "pad 40 dB, 10 W: takes 40 dB; within ±0.5 dB; made for up to 3 GHz; stands 10 W all the time | SWR 1.2",
		"pad 40 dB, 10 W 0 to 3 GHz ±0,5dB":  "",
		"load 50W 100W/30s 1GHz":             "load 50 W: made for up to 1 GHz; stands 50 W all the time; 100 W for 30 s | SWR 1.2",
		"load 1g":                            "load: made for up to 1 GHz | SWR 1.2",
		"coax rg-58 1.5m":                    "coax RG-58, 1.5 m: RG-58; 1.5 m | within ±0.1 dB",
		"Coax RG58 1,5m called the long one": "the long one: RG-58; 1.5 m | within ±0.1 dB",
		"jumper 0.2dB":                       "jumper 0.2 dB: takes 0.2 dB | within ±0.1 dB",
		"analyzer 100k-960M/240M-960M max +10 floor -100 rbw 10k ±1.5": "analyzer 100 kHz to 960 MHz: low input 100 kHz to 960 MHz, at most +10 dBm, floor -100 dBm in 10 kHz; high input 240 MHz to 960 MHz, at most +10 dBm, floor -100 dBm in 10 kHz; levels within ±1.5 dB | input attenuation 10 dB; SWR 1.5",
		"analyzer 9k-3.2G max +20/+10":                                 "analyzer 9 kHz to 3.2 GHz: levels | ",
		"supply 9-15V 10A 20mohm":                                      "supply 9 to 15 V: 9 to 15 V; at most 10 A; leads 0.02 Ω | ",
		"signal generator -120 to 0 dBm 1-500 0.5dB":                   "signal generator: made for 1 to 500 MHz; levels within ±0.5 dB; -120 to 0 dBm | ",
		"switched pad 0/10/20dB 1W":                                    "switched pad 1 W: position 0 dB; position 10 dB; position 20 dB; stands 1 W all the time | within ±0.5 dB; made for up to 1 GHz; SWR 1.3",
		"needle meter 1.8-30 5/20/200W 5%fs":                           "needle meter 1.8 to 30 MHz, 5/20/200 W: reads 1.8 to 30 MHz; scales to 5 and 20 and 200 W; ±5 % of full scale; a needle | takes 0.1 dB; stands 200 W all the time; SWR 1.1",
		"line tap 40dB 1dB takes 100W":                                 "line tap 40 dB, 100 W: couples 40 dB; within ±1 dB; stands 100 W all the time | ",
	} {
		got, err := Read(text)
		if text == "pad 40 dB, 10 W 0 to 3 GHz ±0,5dB" { // a comma parts a path
			if !IsPath(text) {
				t.Errorf("%q is a path", text)
			}
			continue
		}
		if text == "analyzer 9k-3.2G max +20/+10" {
			if err != nil || *got.Spec.Element.Ranges[0].MaxInputDBm != 20 || !strings.Contains(strings.Join(got.Typical, ";"), "9 kHz to 3.2 GHz") {
				t.Errorf("%q: %v %v", text, got, err)
			}
			continue
		}
		if err != nil {
			t.Errorf("%q: %v", text, err)
		} else if says := got.Name + ": " + strings.Join(got.Says, "; ") + " | " + strings.Join(got.Typical, "; "); says != want {
			t.Errorf("%q:\n got %s\nwant %s", text, says, want)
		}
	}
	for text, want := range map[string]string{
		"":                        "begin with what it is",
		"antennae 40dB":           "begin with what it is",
		"pad 40dB wide":           "“wide” is nothing that is known of a pad",
		"load 50W 3%":             "“3%” is nothing",
		"load 50W/60W":            "one rating in W",
		"pad 500-100MHz":          "from the lower",
		"coax rg-999":             "coax is one of",
		"pad 40dB swr":            "swr what?",
		"pad 40dB swr 0.5":        "give 1 ",
		"inline meter 1,500W":     "ambiguous",
		"load 50W 20W/30s":        "cannot be below",
		"load max +10":            "only an analyzer has inputs",
		"pad 40dB 10W 0.5 0.7":    "“0.7” is nothing",
		"analyzer preamp perhaps": "give none, or off",
	} {
		if _, err := Read(text); err == nil || !strings.Contains(err.Error(), want) {
			t.Errorf("%q: %v, want %s", text, err, want)
		}
	}
	if got, _ := Read("load 1GHz"); got.Spec.Element.MaxW != nil {
		t.Error("a rating was guessed")
	}
}

func owned(t *testing.T, lines ...string) []Owned {
	t.Helper()
	var out []Owned
	for _, l := range lines {
		x, err := Read(l)
		if err != nil {
			t.Fatal(l, err)
		}
		out = append(out, Owned{l, x.Name, x.Spec})
	}
	return out
}

// TestPaths: parts are found by their words in their order, ambiguity is refused with both said, and
// a thing lies on a path once.
func TestPaths(t *testing.T) {
	bench := owned(t, "jumper 0.2dB", "pad 40dB 10W", "pad 10dB 2W", "pad 10dB 2W called pad 10 dB, 2 W 2", "analyzer 100k-960M/240M-960M max +10", "inline meter 100-500 15/60W", "load 50W", "line tap 40dB called through-line load with a tap")
	for text, want := range map[string]string{
		"jumper, pad 40, analyzer":        "jumper, pad 40, analyzer: jumper 0.2 dB; pad 40 dB, 10 W; analyzer 100 kHz to 960 MHz, low",
		"jumper > pad 40 > analyzer high": "jumper, pad 40, analyzer high: jumper 0.2 dB; pad 40 dB, 10 W; analyzer 100 kHz to 960 MHz, high",
		"Sweep: pad 40db,pad 10,analyzer": "Sweep: pad 40 dB, 10 W; pad 10 dB, 2 W; analyzer 100 kHz to 960 MHz, low",
		"meter, load":                     "meter, load: inline meter 100 to 500 MHz, 15/60 W, 60 W; load 50 W",
		"meter 15, load":                  "meter 15, load: inline meter 100 to 500 MHz, 15/60 W, 15 W; load 50 W",
		"pad 10, pad 10, analyzer":        "pad 10, pad 10, analyzer: pad 10 dB, 2 W; pad 10 dB, 2 W 2; analyzer 100 kHz to 960 MHz, low",
	} {
		way, err := Path(text, bench)
		if err != nil {
			t.Errorf("%q: %v", text, err)
		} else if got := way.Name + ": " + strings.Join(way.Says, "; "); got != want {
			t.Errorf("%q:\n got %s\nwant %s", text, got, want)
		}
	}
	for text, want := range map[string]string{
		"pad, analyzer":   "“pad” could be pad 40 dB, 10 W or pad 10 dB, 2 W",
		"pad 4, analyzer": "nothing on the bench goes by “pad 4”",
		"pad 40, pad 40":  "lies on this path already",
		",":               "name the parts",
		"meter 30, load":  "nothing on the bench",
	} {
		if _, err := Path(text, bench); err == nil || !strings.Contains(err.Error(), want) {
			t.Errorf("%q: %v, want %s", text, err, want)
		}
	}
	for text, is := range map[string]bool{"coax rg-58 1,5m": false, "meter, load": true, "meter,load": true, "meter > load": true, "load 50W": false} {
		if IsPath(text) != is {
			t.Errorf("%q: a path %t", text, !is)
		}
	}
}

// FuzzRead: whatever is typed is read or refused, and what is read is fit to be kept.
func FuzzRead(f *testing.F) {
	for _, s := range []string{"inline meter 100-500MHz 5% 15/60W", "analyzer 100k-960M/240M-960M max +10 floor -100", "supply 9-15V", "coax rg-58 1.5m", "meter, load"} {
		f.Add(s)
	}
	f.Fuzz(func(t *testing.T, text string) {
		if x, err := Read(text); err == nil {
			if x.Spec.Check() != nil || x.Spec.Kind == "" {
				t.Fatalf("%q: %v", text, x.Spec)
			}
			_, _ = Path(text, []Owned{{"a", x.Name, x.Spec}})
		} else if !strings.Contains(err.Error(), "text") {
			t.Fatal(err)
		}
	})
}
