package publish

import (
	"fmt"
	"strings"

	"talloak/core/judge"
	"talloak/core/measure/emissions"
	"talloak/core/record"
	"talloak/publish/drawing"
)

// all writes the edition from its first page to its sum.
func (w *printed) all() {
	d := w.d
	w.title()
	if d.Changed != "" {
		w.heading(0, strings.TrimSpace(kindTitle(d.Kind)+" "+follows(*d)))
		w.say("%s", d.Changed)
		w.changes()
	}
	if d.Recommendation != "" {
		w.heading(1, "What the reviewer says of it, in their own words; no ruling")
		w.say("%s", d.Recommendation)
	}
	pictures := d.pictures(pictureWidth)
	w.picture(pictures[0])
	if !d.Board.NoEmissions() {
		w.picture(pictures[1])
	}
	w.soft("%s", aboutUnit(d))
	w.para(d.Board.Headline, drawing.Bold, 10.5, drawing.Ink)
	w.heading(0, "What was not tested")
	w.list(d.NotTested)
	w.letters(lettersOf(*d, ""))
	w.rules()
	w.power()
	w.heading(0, "Emissions")
	if d.Board.NoEmissions() {
		w.say("Emissions were not part of this review.")
	} else {
		w.say("Level at the connector = level shown + loss of the path at that frequency − what the instrument already added.")
		for i, l := range d.Board.Levels() {
			w.emissions(&d.Shown[i], &l)
		}
	}
	w.readings()
	for _, o := range d.Others {
		for _, s := range o.Sections {
			w.heading(0, s.Title)
			for _, line := range s.Lines {
				w.say("%s", line)
			}
			shares := make([]float64, len(s.Columns))
			for i := range shares {
				shares[i] = 1
			}
			w.cells(shares, s.Numbers, s.Columns, s.Rows)
		}
	}
	w.rest()
}

func (w *printed) changes() {
	var rows [][]string
	for _, c := range w.d.Changes {
		row := []string{c.Name, "not in it", "not in it", c.Power.Spoken(), "", "", c.EmissionsWords()}
		if c.Before != nil {
			row[1], row[4] = figureW(c.Before), figureDB(c.Before)
		}
		if c.After != nil {
			row[2], row[5] = figureW(c.After), figureDB(c.After)
		}
		rows = append(rows, row)
	}
	if len(rows) == 0 {
		return
	}
	w.cells([]float64{2, 3, 3, 2, 2.4, 2.4, 2}, nil, []string{"Band and level", "Power before", "now", "", "Worst margin before", "now", ""}, rows)
	w.soft("Changed: by more than the uncertainty of both figures, k = 2.")
}

func (w *printed) letters(all []Letter) {
	for _, l := range all {
		w.soft("%s, word for word:", l.Heading())
		w.say("%s", l.Text)
	}
}

func (w *printed) rules() {
	d := w.d
	w.heading(0, "By which rules")
	r := d.Board.Rules
	if r.Recalled {
		w.say("The limits of the rule book “%s” (%s) are recalled from memory. Nobody has recorded checking them against the published text.", r.Book, d.RuleBook.Source)
	}
	if r.House {
		w.say("“%s” is house practice, not law.", r.Book)
	}
	by := r.Book
	for _, b := range r.Bands {
		by += ", " + b.Band + " by " + b.Book
		if b.Recalled {
			w.say("The limits of the rule book “%s” (%s) are recalled from memory. Nobody has recorded checking them against the published text.", b.Book, b.Source)
		}
		if b.House {
			w.say("“%s” is house practice, not law.", b.Book)
		}
	}
	w.say("Judged by %s; power by %s; decision %s. Taken for it: %s.", by, r.Claim, r.Decision, r.Settings)
}

func (w *printed) power() {
	w.heading(0, "Power at the antenna connector")
	var rows [][]string
	for i, l := range w.d.Board.Levels() {
		p := &w.d.Shown[i].Power
		pep := ""
		if p.PEP {
			pep = " PEP"
		}
		row := []string{l.Name, "no claim", "not read", "", l.Power.Why, spoken(p.Verdict)}
		if p.ClaimedW != nil {
			row[1] = watts(p.ClaimedW) + pep
		}
		if p.MeasuredW != nil {
			row[2] = watts(p.MeasuredW) + pep
		}
		if p.LowW != nil && p.HighW != nil {
			row[3] = watts(p.LowW) + " to " + watts(p.HighW)
		}
		rows = append(rows, row)
	}
	w.cells([]float64{2.2, 1.6, 1.6, 2.6, 4.6, 2}, []int{1, 2, 3}, []string{"Band and level", "Claimed", "Measured", "Low to high (k = 2)", "Against the claim", "Ruling"}, rows)
	rows = nil
	for _, r := range inUse(*w.d) {
		rows = append(rows, []string{r.Band + " " + r.Level, hertz(r.FrequencyHz), watts(r.MeasuredW), share(r), r.Text})
	}
	if len(rows) > 0 {
		w.say("Through an antenna: kept, and held against no claim.")
		w.cells([]float64{2, 2, 2, 2, 4}, []int{2, 3}, []string{"Band and level", "Frequency", "Power", "Of what is claimed", "Typed"}, rows)
	}
}

func (w *printed) emissions(s *shown, l *level) {
	e := &l.Emissions
	if e.Ruling == nil {
		w.say("%s: %s.", l.Name, spoken(l.Verdict))
		return
	}
	w.heading(1, fmt.Sprintf("Emissions, %s: %s, %s", l.Name, spoken(l.Verdict), s.Emissions.room()))
	outside := ""
	if e.Outside {
		outside = ", outside the band claimed"
	}
	w.say("At %s%s. %s. %s", hertz(e.FrequencyHz), outside, l.Why, coverageSentence(e.Ruling))
	w.letters(lettersOf(*w.d, l.Name))
	if p, ok := spectrum(s, e); ok {
		w.picture(p)
	}
	var rows [][]string
	for _, p := range e.Ruling.Products {
		rows = append(rows, productRow(&p))
	}
	w.cells([]float64{2.6, 2.4, 1.8, 2.8, 2, 3.6, 1.9}, []int{1, 2, 3, 4}, []string{"Product", "Level", "Relative", "Limit", "Margin", "From", "Ruling"}, rows)
	for _, f := range e.Ruling.Findings {
		w.soft("%s.", f.Detail)
	}
	for _, o := range e.Others {
		w.soft("At %s the same band and level %s: %s.", hertz(o.FrequencyHz), spoken(o.Verdict), o.Why)
	}
	w.say("%s", carrierWords(*e, s.Emissions.CarrierW, w.d.Readings))
	if c := s.Emissions.CorrectedBy; c != nil {
		w.soft("For the worst of them, at %s: %s.", hertz(c.FrequencyHz), takeWords(c))
	}
	for i := range e.Sweeps {
		w.soft("%s", sweepSentence(&e.Sweeps[i]))
	}
	for _, b := range levelBudgets(*e) {
		rows = nil
		for _, p := range b.Parts {
			rows = append(rows, []string{p.Source, fmt.Sprintf("%.2f dB", p.DB), p.Distribution})
		}
		rows = append(rows, []string{"of a level, k = 2", fmt.Sprintf("±%.2f dB", b.Absolute), ""}, []string{"of dBc against the power meter, k = 2", fmt.Sprintf("±%.2f dB", b.Relative), ""})
		w.cells([]float64{6, 2, 3}, []int{1}, []string{"Uncertainty of a level in " + b.Of, "Standard", "Distribution"}, rows)
	}
}

// coverageSentence says how far was looked.
func coverageSentence(r *judge.Ruling) string {
	c := &r.Coverage
	if c.FromHz == nil {
		return ""
	}
	out := fmt.Sprintf("Examined %s to %s", hertzOf(c.FromHz), hertzOf(c.ToHz))
	if c.HighestHarmonic != nil {
		out += fmt.Sprintf(", every harmonic up to the %s among them", judge.Ordinal(*c.HighestHarmonic))
	}
	out += fmt.Sprintf("; passes, if at all, as far as %s.", hertzOf(c.PassesToHz))
	if c.SearchFromHz != nil {
		out += fmt.Sprintf(" A full examination covers %s to %s (%s)", hertzOf(c.SearchFromHz), hertzOf(c.SearchToHz), c.SearchBy)
		if !c.Complete {
			out += ": it was not all looked at"
		}
		out += "."
	}
	return out + fmt.Sprintf(" Within %s of the carrier nothing is said.", hertz(c.NearCarrierHz))
}

func productRow(p *judge.Product) []string {
	row := []string{p.Name(), "not examined", "", "none", "", "", spoken(p.Verdict)}
	if p.Suspect {
		row[0] += ", suspect"
	}
	switch {
	case p.NotAboveDBm != nil:
		row[1] = "not above " + dbm(p.NotAboveDBm)
	case p.LevelDBm != nil:
		row[1] = dbm(p.LevelDBm)
	case p.DBc != nil:
		row[1] = "relative only"
	}
	switch {
	case p.NotAboveDBc != nil:
		row[2] = dbc(p.NotAboveDBc)
	case p.DBc != nil:
		row[2] = dbc(p.DBc)
	}
	switch {
	case p.LimitDBm != nil:
		row[3] = strings.TrimSpace(dbm(p.LimitDBm) + " " + sinceDecided(p.DecidedBy))
	case p.LimitDBc != nil:
		row[3] = strings.TrimSpace(dbc(p.LimitDBc) + " " + sinceDecided(p.DecidedBy))
	}
	if p.RoomDB != nil {
		row[4] = db(p.RoomDB)
		if !p.Seen {
			row[4] = "at least " + row[4]
		}
	}
	if p.ShownDBm != nil && p.LossDB != nil {
		row[5] = fmt.Sprintf("shown %s, loss %s, offset %s", dbm(p.ShownDBm), fine(p.LossDB), fine(p.AppliedDB))
	}
	return row
}

// sweepSentence says how a sweep was taken.
func sweepSentence(s *emissions.SweepView) string {
	out := s.Name
	if s.Standing != "in-force" {
		out += " (" + s.Standing + ": " + s.Reason + ")"
	}
	if s.Void != "" {
		out += ": " + s.Void
	}
	told := func(v, what string) string {
		if v == "" {
			return what + " not told"
		}
		return v + " " + what
	}
	loss := "not known"
	if s.LossDB != nil {
		loss = fine(s.LossDB)
	}
	rbw := "resolution bandwidth not told"
	if s.RBWHz > 0 {
		rbw = "resolution bandwidth " + hertz(s.RBWHz)
	}
	return fmt.Sprintf("%s. Taken %s %son the path “%s”, loss at the carrier %s, offset already on the instrument %s. %s to %s, %d points, %s, %s, %s, %s.",
		out, day(s.TakenAt), strings.TrimPrefix(givenBy(s.By, "")+" ", " "), nameOf(s.Through), loss, fine(&s.AppliedDB), hertz(s.StartHz), hertz(s.StopHz), s.Points, rbw, told(s.Detector, "detector"), told(s.Hold, "hold"), told(s.Modulated, "carrier"))
}

// givenBy is how a figure came: by the instrument itself, or as it is said otherwise.
func givenBy(by []record.By, otherwise string) string {
	if len(by) == 0 {
		return otherwise
	}
	return "read by " + by[0].Name + " itself"
}

func (w *printed) readings() {
	w.heading(0, "Every reading")
	for _, g := range readingGroups(*w.d) {
		for _, r := range g.Full {
			how := way(*w.d, r)
			title := fmt.Sprintf("%s %s %s, %s: ", r.Band, r.Level, r.Mode, hertz(r.FrequencyHz))
			if r.Result != nil {
				title += watts(r.Result.AtConnectorW)
				if r.Result.LowW != nil {
					title += fmt.Sprintf(" (%s to %s, k = 2)", watts(r.Result.LowW), watts(r.Result.HighW))
				}
			}
			if r.Peak != nil {
				title += " peak " + watts(r.Peak.AtConnectorW)
			}
			w.para(title, drawing.Bold, 10, drawing.Ink)
			counts := "Counts."
			if !r.Counts {
				counts = "Does not count: " + r.WhyNot + "."
			}
			loss := "not known"
			if how.LossDB != nil {
				loss = fine(how.LossDB)
			}
			if how.Takes != "" {
				loss += " (" + how.Takes + ")"
			}
			w.soft("%s Taken %s, %s %s: %s. Meter: %s, on the path “%s”, loss in front of the meter %s.", counts, day(r.TakenAt), givenBy(r.By, "typed"), r.Text, typedOut(r), how.Meter, how.Path, loss)
			for _, b := range how.Budgets {
				w.powerBudget(b)
			}
		}
		if len(g.More) > 0 {
			w.soft("And %d more of it through the same wiring: all of them are in the data package.", len(g.More))
		}
	}
	for _, j := range together(*w.d) {
		title := fmt.Sprintf("%s, %s, %d readings together: %s", j.Name, hertz(j.Reading.FrequencyHz), j.Reading.Joined, watts(j.Reading.MeasuredW))
		if j.Reading.LowW != nil && j.Reading.HighW != nil {
			title += fmt.Sprintf(" (%s to %s, k = 2)", watts(j.Reading.LowW), watts(j.Reading.HighW))
		}
		w.para(title, drawing.Bold, 10, drawing.Ink)
		for _, b := range j.Budgets {
			w.powerBudget(b)
		}
	}
}

func (w *printed) powerBudget(b figureBudget) {
	var rows [][]string
	for _, p := range b.Parts {
		rows = append(rows, []string{p.Source, fmt.Sprintf("%.2f %%", 100*p.Relative), p.Distribution})
	}
	rows = append(rows, []string{"together, k = 2", fmt.Sprintf("%.1f %%", b.Combined), ""})
	w.cells([]float64{6, 2, 3}, []int{1}, []string{"Uncertainty" + b.Of, "Standard, of the power", "Distribution"}, rows)
}

func (w *printed) rest() {
	d := w.d
	w.heading(0, "What was claimed")
	var rows [][]string
	for _, c := range d.Claims {
		rows = append(rows, []string{c.Text, c.Source, c.ReadOn})
	}
	w.cells([]float64{4, 6, 2}, nil, []string{"Claim as typed", "Where it was read", "When"}, rows)
	w.photographs()
	w.heading(0, "Kit, as it was")
	w.list(d.Kit)
	w.cells([]float64{5, 1.5, 1.5, 1.5, 1.5, 1, 2}, []int{1, 2, 3, 4, 5}, kitColumns, kitRows(*d))
	w.heading(0, "Words")
	for _, t := range terms(*d) {
		w.soft("%s: %s.", t.Word, t.Means)
	}
	w.heading(0, "Please note")
	w.list(d.Cautions)
	w.heading(0, "Editions of this review")
	var all []string
	for _, e := range d.Earlier {
		all = append(all, strings.TrimSuffix(fmt.Sprintf("Edition %d, %s: %s", e.Number, day(e.FrozenAt), e.Changed), ": "))
	}
	w.list(append(all, fmt.Sprintf("Edition %d, %s: this one", d.Number, day(d.FrozenAt))))
	w.heading(0, "Check it yourself")
	w.say("Do not believe us, run it: talloak verify FILE, with the page in one file, its data or its data package, tells whether a byte was changed, and works every ruling out anew from the measurements in it. Worked out by %s.", d.Program)
	w.say("%s", citation(*d))
	w.soft("SHA-256 of this edition's data: %s", w.sum)
}
