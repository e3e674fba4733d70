package main

import (
	"bytes"
	"crypto/ed25519"
	"encoding/pem"
	"os"
	"os/exec"
	"path/filepath"
	"strings"
	"testing"
	"time"

	"talloak/app"
	"talloak/core/bands"
	"talloak/core/kinds"
	"talloak/core/measure"
	"talloak/core/record"
	"talloak/publish"
	"talloak/rulebooks"
)

// editionOf is the data and the page of an edition of a radio of which nothing was measured.
func editionOf(t *testing.T, key ed25519.PrivateKey) (doc, page []byte) {
	t.Helper()
	review := &record.Review{
		ID: "r", Subject: record.Subject{Maker: "A", Model: "One"}, Claims: []record.Claim{{Text: "2m 5/1", Source: "box", ReadOn: "2026-05-01"}},
		Rules: record.Rules{RuleBook: bands.DefaultBook, DecisionRule: "guarded", Scheme: "tolerance", ToleranceDB: 1.5, PassPercent: 90, BandwidthHz: 16000},
	}
	r, err := measure.Open(review, record.Facts{}, review.Rules, rulebooks.Find, kinds.All())
	if err == nil {
		doc, page, _, err = publish.Compose(r, publish.Frame{ID: "e", Number: 1, FrozenAt: time.Date(2026, 5, 1, 0, 0, 0, 0, time.UTC), Kind: publish.First}, nil, key)
	}
	if err != nil {
		t.Fatal(err)
	}
	return doc, page
}

// TestVerifyFiles: exit codes and lines, of one file and of several, with and without a key; no database is needed and
// nothing is written.
func TestVerifyFiles(t *testing.T) {
	bin, dir := build(t), t.TempDir()
	in := func(name string) string { return filepath.Join(dir, name) }
	put := func(name string, content []byte) string {
		t.Helper()
		if err := os.WriteFile(in(name), content, 0o600); err != nil {
			t.Fatal(err)
		}
		return in(name)
	}
	keyed := func(args ...string) (string, string, int) {
		t.Helper()
		cmd := exec.Command(bin, args...)
		cmd.Env = []string{"HOME=" + dir, "TALLOAK_KEY=" + in("kept/key")}
		var out, errs bytes.Buffer
		cmd.Stdout, cmd.Stderr = &out, &errs
		_ = cmd.Run()
		return out.String(), errs.String(), cmd.ProcessState.ExitCode()
	}
	if _, errs, code := keyed("key", "show"); code != 1 || !strings.Contains(errs, "talloak key new") {
		t.Errorf("no key yet: %d %s", code, errs)
	}
	public, errs, code := keyed("key", "new")
	if block, _ := pem.Decode([]byte(public)); code != 0 || block == nil || block.Type != "PUBLIC KEY" || !strings.Contains(errs, in("kept/key")) {
		t.Fatalf("%d %q %q", code, public, errs)
	}
	if about, err := os.Stat(in("kept/key")); err != nil || about.Mode().Perm() != 0o600 {
		t.Errorf("%v %v", about, err)
	}
	if _, errs, code := keyed("key", "new"); code != 1 || !strings.Contains(errs, "not written over") {
		t.Errorf("a key was written over: %d %s", code, errs)
	}
	if shown, _, code := keyed("key", "show"); code != 0 || shown != public {
		t.Errorf("%d %q", code, shown)
	}
	private, err := app.ReadKey(in("kept/key"))
	if err != nil {
		t.Fatal(err)
	}
	doc, page := editionOf(t, private)
	unsigned, _ := editionOf(t, nil)
	publicFile := put("public.pem", []byte(public))
	_, other, err := ed25519.GenerateKey(nil)
	if err != nil {
		t.Fatal(err)
	}
	foreign, err := app.PublicPEM(other.Public().(ed25519.PublicKey))
	if err != nil {
		t.Fatal(err)
	}
	data, paper, plain := put("edition.json", doc), put("edition.html", page), put("unsigned.json", unsigned)
	changed := put("changed.json", bytes.Replace(doc, []byte(`"maker":"A"`), []byte(`"maker":"B"`), 1))
	text := put("note.txt", []byte("nothing of ours"))
	for _, c := range []struct {
		say  string
		want int
		args []string
	}{
		{"so it is whole", 0, []string{data}},
		{"page: every figure", 0, []string{paper}},
		{"signature: by the key given", 0, []string{"--key", publicFile, data, paper}},
		{"signature: there is none", 1, []string{"--key", publicFile, plain}},
		{"by another key", 1, []string{"--key", put("foreign.pem", foreign), data}},
		{"not what their sum is of", 1, []string{changed}},
		{"nothing in it says", 2, []string{text}},
		{changed + ": ", 1, []string{data, changed, text}},
		{text + ": ", 2, []string{data, text}},
		{"", 1, []string{in("not-there")}},
		{"", 1, []string{"--key", text, data}},
	} {
		out, errs, code := keyed(append([]string{"verify"}, c.args...)...)
		if code != c.want || !strings.Contains(out, c.say) {
			t.Errorf("%v: %d, want %d with %q:\n%s%s", c.args, code, c.want, c.say, out, errs)
		}
	}
	left, err := os.ReadDir(dir)
	if err != nil || len(left) != 8 {
		t.Errorf("%d files, %v", len(left), err)
	}
}
