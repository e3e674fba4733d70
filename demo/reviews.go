package demo

import (
	"talloak/core/record"
	"talloak/publish"
)

// steps runs measurements until one fails.
type steps struct{ err error }

func (s *steps) do(_ string, err error) {
	if s.err == nil {
		s.err = err
	}
}

func (l *loader) larkrise() error {
	err := l.begin("larkrise", larkrise, record.Subject{
		Maker: "Larkrise", Model: "L2", Serial: "L2-00418", DateCode: "2609", Firmware: "1.4",
		ComeBy: "bought", ComeByNote: "from a shop, at the full price", Interest: "none",
		SupplyMinV: p(6.6), SupplyV: p(7.4), SupplyMaxV: p(8.4),
	}, []record.Claim{
		{Text: "2m 5/2/0.5", Source: "box", ReadOn: "2026-09-14"},
		{Text: "70cm 5/2/0.5", Source: "manual, page 31", ReadOn: "2026-09-14"},
	})
	if err != nil {
		return err
	}
	var s steps
	// The radio was left on Low while High was meant; caught and struck.
	wrong, err := l.read(0, "2m", "High", "Low", "l swr 1.1 7.9v")
	s.do(wrong, err)
	if s.err == nil {
		s.err = l.say(wrong, "struck", "the radio was still on Low")
	}
	s.do(l.read(0, "2m", "High", "High", "h swr 1.1 7.8v 1.4a"))
	s.do(l.read(0, "2m", "Mid", "Mid", "m swr 1.1 7.8v .9a"))
	s.do(l.read(0, "2m", "Low", "Low", "l swr 1.1 7.9v .4a"))
	s.do(l.read(0, "70cm", "High", "High", "h swr 1.2 7.7v 1.5a"))
	s.do(l.read(0, "70cm", "Mid", "Mid", "m swr 1.2 7.8v 1a"))
	s.do(l.look(1, "2m", "High", "wide, bench analyzer", 30e6, 1.55e9, 15_201))
	s.do(l.look(1, "2m", "Low", "wide, bench analyzer", 30e6, 1.55e9, 15_201))
	s.do(l.look(1, "70cm", "High", "wide, bench analyzer", 30e6, 3.1e9, 15_351))
	if s.err != nil {
		return s.err
	}
	return l.freeze()
}

func (l *loader) quillon() error {
	err := l.begin("quillon", quillon, record.Subject{
		Maker: "Quillon", Model: "Q7", Serial: "77-1093", DateCode: "2541", Firmware: "2.02",
		ComeBy: "lent", ComeByNote: "by a reader", Interest: "none",
		SupplyMinV: p(6.8), SupplyV: p(7.4), SupplyMaxV: p(8.4),
	}, []record.Claim{{Text: "2m 7/1", Source: "sales page", ReadOn: "2026-10-02"}})
	if err != nil {
		return err
	}
	var s steps
	// A meter that does not cover the band reads next to nothing: it is not the radio.
	s.do(l.read(3, "2m", "High", "High", "1.5 h ? the needle hardly moves"))
	s.do(l.read(0, "2m", "High", "High", "h swr 1.2 7.6v 1.7a"))
	s.do(l.read(0, "2m", "Low", "Low", "l swr 1.2 7.9v .6a"))
	// One pad less overloads the pocket analyzer, which then makes harmonics of its own.
	hot, err := l.look(4, "2m", "High", "first look, one pad less", 30e6, 960e6, 4651)
	s.do(hot, err)
	if s.err == nil {
		s.err = l.say(hot, "suspect", "the second harmonic fell by 10 dB with 10 dB more pad: the analyzer made it")
	}
	s.do(l.look(2, "2m", "High", "second look, pocket analyzer", 30e6, 960e6, 4651))
	s.do(l.look(1, "2m", "High", "wide, bench analyzer", 30e6, 1.55e9, 15_201))
	s.do(l.look(2, "2m", "Low", "pocket analyzer", 30e6, 960e6, 4651))
	if s.err == nil {
		s.err = l.freeze()
	}
	for _, letter := range []record.Letter{
		{Kind: "admission", From: "maker", Name: "Quillon, customer care", SaidOn: "2026-10-09", About: "2m High", MayPrint: true,
			Text: "Thank you for sending us the plot. We see the same in the workshop: a batch of the Q7 left with a filter coil of the wrong value. Send the unit in and we fit the right one without charge."},
		{Kind: "question", From: "us", SaidOn: "2026-10-12", MayPrint: true, Text: "From which date code on is the filter right? Write to us with serial and date code of your Q7."},
		{Kind: "answer", From: "reader", SaidOn: "2026-10-27", MayPrint: true, Serial: "77-4410", DateCode: "2606", Text: "Mine has the third harmonic 58 dB down on High, measured at a club with a borrowed analyzer."},
	} {
		if s.err == nil {
			s.err = l.letter(letter)
		}
	}
	return s.err
}

func (l *loader) quillonFiltered() error {
	l.follows = l.review
	err := l.begin("quillon filtered", quillonFiltered, record.Subject{
		Maker: "Quillon", Model: "Q7", Serial: "77-1093", DateCode: "2541", Firmware: "2.02",
		Changes: "a low-pass filter fitted by the maker's workshop, October 2026",
		ComeBy:  "lent", ComeByNote: "the same unit, back from the workshop", Interest: "none",
		SupplyMinV: p(6.8), SupplyV: p(7.4), SupplyMaxV: p(8.4),
	}, []record.Claim{{Text: "2m 7/1", Source: "sales page", ReadOn: "2026-10-02"}})
	l.follows = ""
	if err != nil {
		return err
	}
	var s steps
	s.do(l.read(0, "2m", "High", "High", "h swr 1.2 7.6v 1.7a"))
	s.do(l.read(0, "2m", "Low", "Low", "l swr 1.2 7.9v .6a"))
	s.do(l.look(1, "2m", "High", "wide, bench analyzer", 30e6, 1.55e9, 15_201))
	s.do(l.look(1, "2m", "Low", "wide, bench analyzer", 30e6, 1.55e9, 15_201))
	if s.err != nil {
		return s.err
	}
	return l.follow(publish.Retest, "Power and emissions of both levels were measured again after the maker fitted another low-pass filter; nothing is taken over from the older edition.")
}
