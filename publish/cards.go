package publish

import (
	"fmt"
	"strings"

	"talloak/core/decision"
	"talloak/core/problem"
	"talloak/publish/drawing"
)

// Cards are pictures of an edition for a video or a post: a warm ground, the radio's name small, one shape large, one
// sentence, one picture, how far was looked along the bottom edge, and where it is from.

// CardNames are the cards there are.
var CardNames = []string{"result", "strip", "comparison", "correction"}

// CardSizes are the sizes of cards, in points each of which is one of the picture's.
var CardSizes = map[string][2]float64{"1920x1080": {1920, 1080}, "1080x1350": {1080, 1350}}

// Card is a card of an edition, by its name and size. Errors are *problem.Error on "name" or "size";
// NothingToShow where there is nothing that the card could say.
func (d *Document) Card(name, size, sum string) (*drawing.Picture, error) {
	of, ok := CardSizes[size]
	if !ok {
		return nil, problem.New("size", "give 1920x1080 or 1080x1350")
	}
	c := &card{Document: d, sum: sum, width: of[0], height: of[1]}
	var body func(*drawing.Sheet)
	var err error
	switch name {
	case "result":
		body = c.result
	case "strip":
		body = c.strip
	case "comparison":
		body, err = c.comparison()
	case "correction":
		body, err = c.correction()
	default:
		return nil, problem.New("name", "give %s", strings.Join(CardNames, ", "))
	}
	if err != nil {
		return nil, err
	}
	return &drawing.Picture{Name: name, Title: d.Board.Title, Width: c.width, Height: c.height, Draw: func(s *drawing.Sheet) {
		s.Fill(0, 0, c.width, c.height, drawing.Ground)
		body(s)
		c.foot(s)
	}}, nil
}

// NothingToShow says why there is no such card of an edition.
type NothingToShow string

// Error is the reason.
func (n NothingToShow) Error() string { return string(n) }

type card struct {
	*Document
	sum           string
	width, height float64
}

// edge is the margin of a card.
const edge = 72.0

func (c *card) inner() float64 { return c.width - 2*edge }

// head sets the radio's name, and the unit under it; it gives the base line that follows.
func (c *card) head(s *drawing.Sheet) float64 {
	name := c.Subject.Maker + " " + c.Subject.Model
	size := drawing.Fitting(c.inner(), 64, 30, drawing.Serif, 1, name)
	s.Text(edge, edge+52, size, drawing.Serif, drawing.Start, drawing.Ink, drawing.Clipped(c.inner(), size, drawing.Serif, name))
	s.Text(edge, edge+96, 28, drawing.Regular, drawing.Start, drawing.Soft, drawing.Clipped(c.inner(), 28, drawing.Regular, unitWords(c.Subject)))
	return edge + 150
}

// foot has the strip of how far was looked, over all bands and levels, along the bottom edge, and the source.
func (c *card) foot(s *drawing.Sheet) {
	y := c.height - 96
	s.Text(edge, y-14, 22, drawing.Regular, drawing.Start, drawing.Soft, drawing.Clipped(c.inner(), 22, drawing.Regular, c.lookedWords()))
	if n := len(c.Shown); n > 0 {
		gap := 6.0
		w := (c.inner() - gap*float64(n-1)) / float64(n)
		for i := range c.Shown {
			e := c.Shown[i].Emissions
			x := edge + float64(i)*(w+gap)
			if len(e.SearchHz) != 2 {
				s.Frame(x, y, w, 16, 1.5, drawing.Soft)
				continue
			}
			coverage(s, &e, x, y, w, 16)
		}
	}
	s.Text(edge, c.height-36, 24, drawing.Regular, drawing.Start, drawing.Soft, drawing.Clipped(c.inner(), 24, drawing.Regular, c.source(c.sum)))
}

func (c *card) lookedWords() string {
	var all []string
	for _, s := range c.Shown {
		words := "not looked at"
		switch e := s.Emissions; {
		case e.Complete:
			words = "in full"
		case len(e.ExaminedHz) > 0:
			words = "in part"
		}
		all = append(all, s.Name+" "+words)
	}
	return "How far was looked: " + strings.Join(all, ", ")
}

// wholes are the two shapes with their words beside them, so large.
func (c *card) wholes(s *drawing.Sheet, y, size float64) float64 {
	x := edge
	for _, w := range []struct {
		v     decision.Verdict
		words string
	}{{c.Board.Power().Verdict, "Power " + spoken(c.Board.Power().Verdict)}, {c.Board.Emissions().Verdict, "Emissions " + spokenOfMany(c.Board.Emissions().Verdict)}} {
		wide := size + 24 + drawing.Bold.Width(size*0.5, w.words)
		if x > edge && x+wide > c.width-edge {
			x, y = edge, y+size+24
		}
		s.Shape(w.v, x, y, size)
		s.Text(x+size+24, y+size*0.66, size*0.5, drawing.Bold, drawing.Start, drawing.Ink, w.words)
		x += wide + 64
	}
	return y + size
}

// plain sets the sentence for a buyer, as large as goes into what is left down to a line.
func (c *card) plain(s *drawing.Sheet, y, to float64) float64 {
	const lead = 1.28
	size := 54.0
	for size > 26 && float64(len(drawing.Lines(c.inner(), size, drawing.Serif, 99, c.Plain)))*size*lead > to-y {
		size -= 2
	}
	lines := max(1, int((to-y)/(size*lead)))
	return s.Wrapped(edge, y+size, c.inner(), size, size*lead, drawing.Serif, drawing.Ink, lines, typeset(c.Plain))
}

// below draws a picture of the edition as wide as the card, no lower than its foot.
func (c *card) below(s *drawing.Sheet, y float64, make func(width float64) drawing.Picture) {
	room, p := c.height-140-y, make(pictureWidth)
	times := min(c.inner()/p.Width, room/p.Height)
	s.Part(edge+(c.inner()-times*p.Width)/2, y+(room-times*p.Height)/2, times, p.Draw)
}

func (c *card) result(s *drawing.Sheet) {
	y := c.wholes(s, c.head(s), 120)
	most := c.height * 0.56
	y = c.plain(s, y+36, most)
	pick := c.powerPicture
	if v := c.Board.Emissions().Verdict; v == decision.Fail || v == decision.Inconclusive || c.Board.Power().Verdict == decision.NotExamined {
		pick = c.emissionsPicture
	}
	c.below(s, y+8, pick)
}

func (c *card) strip(s *drawing.Sheet) {
	y := c.head(s)
	y = c.wholes(s, y+(c.height-y-420)/2, 130)
	words := ""
	for i, sh := range c.Shown {
		if i > 0 {
			words += "; "
		}
		words += sh.Name + " " + sh.Power.words()
		if sh.Emissions.RoomDB != nil {
			words += ", " + sh.Emissions.room()
		}
	}
	s.Wrapped(edge, y+70, c.inner(), 34, 46, drawing.Regular, drawing.Ink, 4, words)
}

// comparison is before and after, where the edition follows another.
func (c *card) comparison() (func(*drawing.Sheet), error) {
	if len(c.Changes) == 0 {
		return nil, NothingToShow("there is nothing to compare: the edition follows no other")
	}
	return func(s *drawing.Sheet) {
		y := c.wholes(s, c.head(s), 76) + 20
		title := kindTitle(c.Kind) + " " + follows(*c.Document)
		y = s.Wrapped(edge, y+30, c.inner(), 34, 44, drawing.Bold, drawing.Ink, 2, title)
		y = s.Wrapped(edge, y, c.inner(), 30, 40, drawing.Regular, drawing.Ink, 3, c.Changed)
		rows := max(1, min(len(c.Changes), int((c.height-180-y)/104)))
		columns := []float64{edge, edge + c.inner()*0.2, edge + c.inner()*0.6}
		for i, head := range []string{"", "Power, before and now", "Worst margin, before and now"} {
			s.Text(columns[i], y+24, 24, drawing.Regular, drawing.Start, drawing.Soft, head)
		}
		y += 40
		for _, ch := range c.Changes[:rows] {
			s.Line([][2]float64{{edge, y}, {c.width - edge, y}}, 1.5, drawing.Hair)
			s.Text(edge, y+42, 30, drawing.Bold, drawing.Start, drawing.Ink, drawing.Clipped(c.inner()*0.19, 30, drawing.Bold, ch.Name))
			for k, of := range []struct {
				figure func(*Figures) string
				told   string
			}{{func(f *Figures) string { return watts(f.MeasuredW) }, ch.Power.Spoken()}, {func(f *Figures) string { return db(f.RoomDB) }, ch.EmissionsWords()}} {
				words, now := "not in it", "not in it"
				if ch.Before != nil {
					words = of.figure(ch.Before)
				}
				if ch.After != nil {
					now = of.figure(ch.After)
				}
				words += ", now " + now
				s.Text(columns[k+1], y+42, 30, drawing.Regular, drawing.Start, drawing.Ink, drawing.Clipped(c.inner()*0.38, 30, drawing.Regular, words))
				s.Text(columns[k+1], y+76, 24, drawing.Regular, drawing.Start, drawing.Soft, of.told)
			}
			y += 104
		}
	}, nil
}

// correction is how a figure was brought to the connector: the worst product, or the power where nothing was looked at.
func (c *card) correction() (func(*drawing.Sheet), error) {
	type step struct{ what, figure string }
	var title string
	var steps []step
	var result string
	levels := c.Board.Levels()
	best := -1
	for i := range c.Shown {
		e := &c.Shown[i].Emissions
		if e.CorrectedBy != nil && e.RoomDB != nil && levels[i].Emissions.Ruling.Worst.LevelDBm != nil && (best < 0 || *e.RoomDB < *c.Shown[best].Emissions.RoomDB) {
			best = i
		}
	}
	if best >= 0 {
		w := levels[best].Emissions.Ruling.Worst
		title = fmt.Sprintf("%s, %s at %s", c.Shown[best].Name, w.Name(), hertz(*placeOf(w)))
		steps = append(steps, step{"the analyzer showed", dbm(w.ShownDBm)})
		for _, t := range c.Shown[best].Emissions.CorrectedBy.Takes {
			steps = append(steps, step{"back through " + t.Name, "+" + fine(t.LossDB)})
		}
		if w.AppliedDB != nil && *w.AppliedDB != 0 {
			steps = append(steps, step{"added by the analyzer already", "less " + fine(w.AppliedDB)})
		}
		result = dbm(w.LevelDBm)
	} else {
		for i := range c.Shown {
			r := levels[i].Power.Reading
			if r == nil || c.Read[r.ID] == nil || c.Read[r.ID].LossDB == nil || r.MeasuredW == nil {
				continue
			}
			title = c.Shown[i].Name + ", power at " + hertz(r.FrequencyHz)
			steps = append(steps, step{"the meter showed", r.Text})
			for _, t := range c.Read[r.ID].Takes {
				steps = append(steps, step{"back through " + t.Name, "+" + fine(t.LossDB)})
			}
			result = watts(r.MeasuredW)
			break
		}
	}
	if result == "" {
		return nil, NothingToShow("there is no figure in it that was corrected")
	}
	return func(s *drawing.Sheet) {
		y := c.head(s)
		y = s.Wrapped(edge, y+30, c.inner(), 40, 52, drawing.Serif, drawing.Ink, 2, title)
		room := c.height - 170 - y
		lead := min(84, room/float64(len(steps)+2))
		size := min(36, lead*0.6)
		for _, st := range append(steps, step{"so at the radio's antenna connector", result}) {
			last := st.figure == result
			face := drawing.Regular
			if last {
				face = drawing.Bold
				s.Line([][2]float64{{edge, y + 4}, {c.width - edge, y + 4}}, 2, drawing.Ink)
			}
			y += lead
			s.Text(edge, y-lead*0.25, size, face, drawing.Start, drawing.Ink, drawing.Clipped(c.inner()*0.7, size, face, st.what))
			s.Text(c.width-edge, y-lead*0.25, size, face, drawing.End, drawing.Ink, typeset(st.figure))
		}
	}, nil
}
