package publish

import (
	"archive/zip"
	"bytes"
	"compress/gzip"
	"crypto/ed25519"
	"crypto/sha256"
	"encoding/base64"
	"encoding/hex"
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"slices"
	"strings"

	"talloak/core/measure"
	"talloak/core/record"
)

// Outcome is what a check of a file comes to, as an exit code.
type Outcome int

// The outcomes. Otherwise is of a file that is whole, of which this program, a later one, rules otherwise than the
// one that made it.
const (
	Whole     Outcome = 0
	Damaged   Outcome = 1
	NotOurs   Outcome = 2
	Otherwise Outcome = 3
)

// Worse is the worse of two outcomes: what is damaged is worst, then what is none of ours.
func (o Outcome) Worse(p Outcome) Outcome {
	order := []Outcome{Whole, Otherwise, NotOurs, Damaged}
	return order[max(slices.Index(order, o), slices.Index(order, p))]
}

// Checked is what the check of a file found, a line each, and what that comes to.
type Checked struct {
	Lines   []string
	Outcome Outcome
	Older   bool // an edition of an older program, of which only its sums can be checked
}

func (c *Checked) say(format string, args ...any) {
	c.Lines = append(c.Lines, fmt.Sprintf(format, args...))
}

func (c *Checked) wrong(o Outcome, format string, args ...any) {
	c.say(format, args...)
	c.Outcome = c.Outcome.Worse(o)
}

// MostUnpacked is how much is unpacked of a file at most, in bytes.
const MostUnpacked = 256 << 20

type checker struct {
	Checked
	kinds []measure.Kind
	key   ed25519.PublicKey
	left  int64 // that may be unpacked yet
}

// Check tells whether a page, the data or the data package of an edition is whole, and works its rulings out anew
// from the data in it. With a key the signature has to be of that. What is no edition is NotOurs; nothing a file
// holds makes it panic.
func Check(content []byte, kinds []measure.Kind, key ed25519.PublicKey) (out Checked) {
	c := &checker{kinds: kinds, key: key, left: MostUnpacked}
	defer func() {
		if r := recover(); r != nil { // data that no program wrote
			c.wrong(Damaged, "the program fails at it: %v", r)
			out = c.Checked
		}
	}()
	switch start := bytes.TrimLeft(content, "\ufeff \t\r\n"); {
	case bytes.HasPrefix(content, []byte("PK")):
		c.pack(content)
	case bytes.HasPrefix(start, []byte("{")) && bytes.Contains(content, []byte(`"format":"talloak-edition-`)):
		c.data(content)
	case bytes.HasPrefix(start, []byte("<")) && bytes.Contains(content, []byte(pageMark)):
		c.page(content)
	case bytes.HasPrefix(start, []byte("<")) && bytes.Contains(content, []byte("SHA-256 of this edition")):
		c.older("page")
		c.say("the sum of its data that it prints is %s", olderSum.FindString(string(content)))
	case bytes.Contains(content, []byte("talloak-edition-")):
		c.wrong(Damaged, "it names itself an edition, and is none that can be read")
	default:
		c.wrong(NotOurs, "nothing in it says that it is an edition")
	}
	return c.Checked
}

func (c *checker) older(what string) {
	c.Older = true
	c.say("a %s of an older program, which put neither its sum nor its facts into it: its rulings cannot be worked out anew from it", what)
}

// unpacked reads what was packed, as far as is left.
func (c *checker) unpacked(r io.Reader) ([]byte, error) {
	out, err := io.ReadAll(io.LimitReader(r, c.left+1))
	if c.left -= int64(len(out)); c.left < 0 {
		return nil, fmt.Errorf("more than %d MiB would have to be unpacked", MostUnpacked>>20)
	}
	return out, err
}

// data checks an edition's data; d is nil where they cannot be read.
func (c *checker) data(doc []byte) (d *Document) {
	d, err := Read(doc)
	if err != nil {
		c.wrong(Damaged, "data: %v", err)
		return nil
	}
	hash := sha256.Sum256(doc)
	switch d.Format {
	case format:
	case "talloak-edition-1", "talloak-edition-2":
		c.older("set of data")
		c.say("data: SHA-256 %s: hold it against the one that its page prints", hex.EncodeToString(hash[:]))
		if c.key != nil {
			c.wrong(Damaged, "signature: there is none")
		}
		return d
	default:
		c.wrong(Otherwise, "data: of the format %q, which this program does not know: take a newer one", d.Format)
	}
	covered, has, whole := unseal(doc)
	switch {
	case !has:
		c.wrong(Damaged, "data: they do not end in their sum: something was cut off or put behind")
		return nil
	case !whole: // what they come to says nothing more
		c.wrong(Damaged, "data: they are not what their sum is of: something was changed")
		return nil
	default:
		c.say("data: whole, every byte is as their sum says; SHA-256 of the file %s", hex.EncodeToString(hash[:]))
	}
	c.signature(covered)
	c.again(d, covered)
	return d
}

func (c *checker) signature(covered []byte) {
	signed, s := signatureOf(covered)
	switch {
	case s == nil && c.key != nil:
		c.wrong(Damaged, "signature: there is none, and one by the key given was asked for")
	case s == nil:
		c.say("signature: none was made")
	case !ed25519.Verify(ed25519.PublicKey(s.Key), signed, s.Ed25519):
		c.wrong(Damaged, "signature: it is not of these data")
	case c.key != nil && !bytes.Equal(c.key, s.Key):
		c.wrong(Damaged, "signature: it is by another key, %s", Fingerprint(s.Key))
	case c.key != nil:
		c.say("signature: by the key given, %s", Fingerprint(s.Key))
	default:
		c.say("signature: by the key %s, which the file brings itself: hold it against the publication's with --key", Fingerprint(s.Key))
	}
}

// Fingerprint is a short name of a public key: the first half of its SHA-256.
func Fingerprint(key ed25519.PublicKey) string {
	sum := sha256.Sum256(key)
	return hex.EncodeToString(sum[:16])
}

// again works everything out anew from the facts in the data.
func (c *checker) again(d *Document, covered []byte) {
	body := covered
	if signed, s := signatureOf(covered); s != nil {
		body = signed
	}
	content, text, err := workedAgain(d, c.kinds)
	if err != nil {
		c.wrong(Damaged, "rulings: they cannot be worked out from the data: %v", err)
		return
	}
	same := d.Program == Program()
	if bytes.Equal(text[:len(text)-1], body) { // but for the brace that the sum closes
		c.agree(content)
		return
	}
	found, err := differences(append(bytes.Clone(body), '}'), text, same)
	switch {
	case err != nil:
		c.wrong(Damaged, "rulings: %v", err)
		return
	case len(found.figures) == 0 && !same:
		c.agree(content)
		c.say("words: %d texts are put otherwise by this program, %s; the edition is of %s", found.words, Program(), d.Program)
		return
	}
	o := Damaged
	if !same {
		o = Otherwise
		c.say("rulings: the edition is of %s, this is %s, which comes to something else:", d.Program, Program())
	}
	if len(found.figures) == 0 {
		c.wrong(o, "words: they are not those that follow from the data")
	}
	for i, f := range found.figures {
		if i == 20 {
			c.say("and %d more", len(found.figures)-i)
			break
		}
		c.wrong(o, "differs: %s", f)
	}
}

// workedAgain is a document made anew of what another was made of, and its JSON.
func workedAgain(d *Document, kinds []measure.Kind) (content *Document, text []byte, err error) {
	if d.Facts == nil {
		return nil, nil, errors.New("there are no facts in them")
	}
	for _, b := range d.Facts.Books {
		if b == nil {
			return nil, nil, errors.New("a rule book is missing")
		}
		if err := b.Check(); err != nil {
			return nil, nil, fmt.Errorf("the rule book %q: %w", b.ID, err)
		}
	}
	r, err := d.Reopen(kinds)
	if err != nil {
		return nil, nil, err
	}
	made := assemble(r, d.Frame, d.Facts.files())
	made.Program = d.Program
	text, err = json.Marshal(made)
	return &made, text, err
}

// agree says what was worked out anew and is the same.
func (c *checker) agree(d *Document) {
	for _, l := range d.Board.Levels() {
		line := fmt.Sprintf("%s: power %s", l.Name, l.Power.Verdict.Spoken())
		if r := l.Power.Reading; r != nil && r.MeasuredW != nil {
			line += ", " + watts(r.MeasuredW)
		}
		line += "; emissions " + spokenOfMany(l.Verdict)
		if e := l.Emissions.Ruling; e != nil && e.Worst != nil {
			line += ", worst room " + db(e.Worst.RoomDB)
		}
		c.say("ruling: %s: the same, worked out anew", line)
	}
	for _, o := range d.Others {
		if o.Whole != nil {
			c.say("ruling: %s %s: the same, worked out anew", strings.ToLower(o.Title), o.Whole.Verdict.Spoken())
		}
	}
	c.say("figures: every one of them comes to the same from the %d measurements in it", len(d.Facts.Measurements))
}

// page checks a page, and the data in it.
func (c *checker) page(page []byte) {
	tail := []byte("<!-- " + sealMark)
	at := bytes.LastIndex(page, tail)
	switch {
	case at < 0 || string(page[at:]) != "<!-- "+sealOf(page[:at])+" -->\n":
		c.wrong(Damaged, "page: it is not what its last line is the sum of: something was changed, cut off or put behind (of a page saved by a browser take the copy in one file instead)")
	default:
		c.say("page: whole, every byte is as its last line says")
	}
	doc, err := c.dataIn(page)
	if err != nil {
		c.wrong(Damaged, "page: the data in it cannot be read: %v", err)
		return
	}
	if d := c.data(doc); d != nil {
		c.pageOf(d, doc, page)
	}
}

func (c *checker) dataIn(page []byte) ([]byte, error) {
	from := bytes.LastIndex(page, []byte(dataMark))
	if from < 0 {
		return nil, errors.New("there are none")
	}
	packed := page[from+len(dataMark):]
	to := bytes.Index(packed, []byte(dataEnd))
	if to < 0 {
		return nil, errors.New("they do not end")
	}
	in, err := gzip.NewReader(base64.NewDecoder(base64.StdEncoding, bytes.NewReader(packed[:to])))
	if err != nil {
		return nil, err
	}
	return c.unpacked(in)
}

// pageOf holds a page against the one that its data make.
func (c *checker) pageOf(d *Document, doc, page []byte) {
	if d.Format != format {
		return
	}
	if d.Program != Program() {
		c.say("page: drawn by %s; this is %s, whose pages may look otherwise: its data were checked, its drawing was not", d.Program, Program())
		return
	}
	again, err := Page(*d, doc)
	switch {
	case err != nil:
		c.wrong(Damaged, "page: none can be made of its data: %v", err)
	case !bytes.Equal(again, page):
		c.wrong(Damaged, "page: it is not the one that its data make%s", firstDifference(page, again))
	default:
		c.say("page: every figure and word on it is that of the data")
	}
}

// firstDifference shows where two texts part, in a few signs of each.
func firstDifference(a, b []byte) string {
	i := 0
	for i < min(len(a), len(b)) && a[i] == b[i] {
		i++
	}
	piece := func(t []byte) string { return string(t[max(0, min(i-20, len(t))):min(len(t), i+40)]) }
	return fmt.Sprintf(": it has %q where the data make %q", piece(a), piece(b))
}

// pack checks a data package, with everything in it.
func (c *checker) pack(content []byte) {
	archive, err := zip.NewReader(bytes.NewReader(content), int64(len(content)))
	files := map[string][]byte{}
	if err == nil {
		for _, f := range archive.File {
			in, err := f.Open()
			if err == nil {
				files[f.Name], err = c.unpacked(in)
				_ = in.Close()
			}
			if err != nil {
				c.wrong(Damaged, "package: %q cannot be read: %v", f.Name, err)
				break
			}
		}
	}
	doc, has := files["edition.json"]
	described, about := files["datapackage.json"]
	sealed := bytes.Contains(content, []byte(sealMark)) || err != nil && bytes.Contains(content, []byte("datapackage.json")) && bytes.Contains(content, []byte("edition.json"))
	if !sealed && (!has || !about || !bytes.Contains(described, []byte("edition_hash"))) {
		c.Checked = Checked{} // whatever it is, it is not for us to say what is wrong with it
		c.wrong(NotOurs, "a zip, in which nothing says that it is the data package of an edition")
		return
	}
	if !sealed || len(content) < sealLength || string(content[len(content)-sealLength:]) != sealOf(content[:len(content)-sealLength]) {
		if d, err := Read(doc); sealed || err != nil || d.Format == format {
			c.wrong(Damaged, "package: it is not what its comment is the sum of: something was changed, cut off or put behind")
		}
	} else {
		c.say("package: whole, every byte is as its comment says")
	}
	if !has {
		c.wrong(Damaged, "package: there is no edition.json in it")
		return
	}
	d := c.data(doc)
	if d == nil {
		return
	}
	if page := files["edition.html"]; d.Format == format {
		c.pageOf(d, doc, page)
		c.packOf(d, doc, page, files, content)
	} else if sum := sha256.Sum256(doc); !bytes.Contains(page, []byte(hex.EncodeToString(sum[:]))) {
		c.wrong(Damaged, "page: it does not print the sum of the data beside it")
	} else {
		c.say("page: it prints the sum of the data beside it")
	}
}

// packOf holds a package against the one that its data and original files make.
func (c *checker) packOf(d *Document, doc, page []byte, files map[string][]byte, content []byte) {
	var originals []record.File
	for _, m := range d.Facts.Measurements {
		if m.File == nil {
			continue
		}
		name := originalName(len(originals), m.File.Name)
		original, ok := files[name]
		if sum := sha256.Sum256(original); !ok || hex.EncodeToString(sum[:]) != m.File.SHA256 {
			c.wrong(Damaged, "files: %q is not the original that was measured from", name)
		}
		originals = append(originals, record.File{Name: m.File.Name, MediaType: m.File.MediaType, Content: original})
	}
	c.say("files: %d originals, each by its sum", len(originals))
	if d.Program != Program() || c.Outcome == Damaged {
		return
	}
	again, err := packedAgain(d, doc, page, originals, c.kinds)
	switch {
	case err != nil:
		c.wrong(Damaged, "tables: they cannot be made of the data: %v", err)
	case !bytes.Equal(again, content):
		c.wrong(Damaged, "tables: the package is not the one that its data make")
	default:
		c.say("tables: every cell is as the data make it")
	}
}

func packedAgain(d *Document, doc, page []byte, files []record.File, kinds []measure.Kind) ([]byte, error) {
	r, err := d.Reopen(kinds)
	if err != nil {
		return nil, err
	}
	return Pack(d, doc, page, r, files)
}
