package demo_test

import (
	"bytes"
	"crypto/ed25519"
	"crypto/sha256"
	"encoding/hex"
	"math/rand/v2"
	"regexp"
	"strings"
	"testing"
	"time"

	"talloak/core/kinds"
	"talloak/core/measure"
	"talloak/publish"
)

// edition is what is frozen of a demo review, and its package.
type edition struct {
	doc, page, pack []byte
}

func freeze(t *testing.T, r *measure.Review, key ed25519.PrivateKey) (e edition) {
	t.Helper()
	var err error
	if e.doc, e.page, _, err = publish.Compose(r, publish.Frame{ID: "e", Number: 1, FrozenAt: time.Date(2026, 11, 25, 0, 0, 0, 0, time.UTC), Kind: publish.First}, nil, key); err != nil {
		t.Fatal(err)
	}
	d, err := publish.Read(e.doc)
	if err == nil {
		e.pack, err = publish.Pack(d, e.doc, e.page, r, nil)
	}
	if err != nil {
		t.Fatal(err)
	}
	return e
}

// resealed is data with something replaced and a sum that fits again, as a forger would have it.
func resealed(t *testing.T, doc []byte, old, by string) []byte {
	t.Helper()
	const tail = len(`,"sum":""}`) + 64
	changed := bytes.Replace(doc[:len(doc)-tail], []byte(old), []byte(by), 1)
	if bytes.Equal(changed, doc[:len(doc)-tail]) {
		t.Fatalf("no %q in the data", old)
	}
	sum := sha256.Sum256(changed)
	return append(changed, `,"sum":"`+hex.EncodeToString(sum[:])+`"}`...)
}

// TestAnybodyCanCheckAnEdition: page, data and package of every review of the demo are whole, and every ruling comes
// to the same from them alone; any changed byte is seen, and so is a figure changed with its sum.
func TestAnybodyCanCheckAnEdition(t *testing.T) {
	_, reviews := load(t)
	public, private, err := ed25519.GenerateKey(nil)
	if err != nil {
		t.Fatal(err)
	}
	another, _, err := ed25519.GenerateKey(nil)
	if err != nil {
		t.Fatal(err)
	}
	check := func(what string, content []byte, key ed25519.PublicKey, want publish.Outcome, say string) {
		t.Helper()
		got := publish.Check(content, kinds.All(), key)
		if lines := strings.Join(got.Lines, "\n"); got.Outcome != want || !strings.Contains(lines, say) {
			t.Errorf("%s: %d, want %d with %q:\n%.2000s", what, got.Outcome, want, say, lines)
		}
	}
	for title, r := range reviews {
		e := freeze(t, r, private)
		check(title+", page and the data in it", e.page, public, publish.Whole, "signature: by the key given")
		if title == quillon {
			check("data", e.doc, public, publish.Whole, "signature: by the key given")
			check("package", e.pack, public, publish.Whole, "tables: every cell is as the data make it")
		}
	}
	e := freeze(t, reviews[quillon], nil)
	check("unsigned", e.doc, nil, publish.Whole, "signature: none was made")
	check("unsigned, with a key", e.doc, public, publish.Damaged, "signature: there is none")
	check("by another key", freeze(t, reviews[quillon], private).page, another, publish.Damaged, "by another key")
	check("its rulings", e.page, nil, publish.Whole, "ruling: 2m High: power passes, 5.64 W; emissions fail, worst room −9.0 dB: the same, worked out anew")

	random := rand.New(rand.NewPCG(7, 3))
	for what, content := range map[string][]byte{"page": e.page, "data": e.doc, "package": e.pack} {
		for range 12 {
			changed := bytes.Clone(content)
			changed[random.IntN(len(changed))] ^= 1 << random.IntN(7)
			if got := publish.Check(changed, kinds.All(), nil); got.Outcome != publish.Damaged && got.Outcome != publish.NotOurs {
				t.Errorf("a changed byte of the %s: %d %v", what, got.Outcome, got.Lines)
			}
		}
		check(what+" cut short", content[:len(content)-100], nil, publish.Damaged, "")
		check(what+" with something behind it", append(bytes.Clone(content), '\n'), nil, publish.Damaged, "")
	}
	for old, by := range map[string]string{
		`"verdict":"fail"`: `"verdict":"pass"`, `"measured_w":5.6`: `"measured_w":6.6`, `"tolerance_db":1`: `"tolerance_db":9`,
	} {
		check(old+" for "+by, resealed(t, e.doc, old, by), nil, publish.Damaged, "differs: ")
	}
	check("forged and signed by another", resealed(t, freeze(t, reviews[quillon], private).doc, `"verdict":"fail"`, `"verdict":"pass"`), nil, publish.Damaged, "signature: it is not of these data")
	later := resealed(t, e.doc, publish.Program(), "Tall Oak 0.0.9")
	check("of a program before, which ruled alike", later, nil, publish.Whole, "figures: ")
	check("of a program before, which ruled otherwise", resealed(t, later, `"verdict":"fail"`, `"verdict":"pass"`), nil, publish.Otherwise, "the edition is of Tall Oak 0.0.9")
	check("a page with another figure, and its sum", resealedPage(e.page, "5.64 W", "6.64 W"), nil, publish.Damaged, "it is not the one that its data make")
	check("something else", []byte("a text"), nil, publish.NotOurs, "")
	check("another page", []byte("<!doctype html><p>5 W"), nil, publish.NotOurs, "")
	check("other data", []byte(`{"format":"other"}`), nil, publish.NotOurs, "")
	check("an older edition", []byte(`{"format":"talloak-edition-2","edition":1,"board":{"cells":[]}}`), nil, publish.Whole, "cannot be worked out anew")
	for _, hostile := range []string{`{"format":"talloak-edition-3","facts":{"rule_books":[null],"measurements":[{"kind":"power","path":7}]}`, `{"format":"talloak-edition-3"`, `{"format":"talloak-edition-3","facts":{"measurements":[{"kind":"emissions","path":-5,"payload":{"points":1e9}}]}`} {
		sum := sha256.Sum256([]byte(hostile))
		check(hostile, []byte(hostile+`,"sum":"`+hex.EncodeToString(sum[:])+`"}`), nil, publish.Damaged, "")
	}
}

func resealedPage(page []byte, old, by string) []byte {
	seal := regexp.MustCompile(`<!-- talloak-edition-seal sha256 [0-9a-f]{64} -->\n$`)
	changed := bytes.Replace(seal.ReplaceAll(page, nil), []byte(old), []byte(by), 1)
	sum := sha256.Sum256(changed)
	return append(changed, "<!-- talloak-edition-seal sha256 "+hex.EncodeToString(sum[:])+" -->\n"...)
}
