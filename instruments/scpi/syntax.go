package scpi

import (
	"strings"
)

// node is one word of a header, in its two forms; an optional one may be left out.
type node struct {
	short, long string // upper case
	optional    bool
}

// nodesOf reads a header as the standard writes it, such as [SENSe:]FREQuency:STARt: the
// short form in capitals, what may be left out in brackets.
func nodesOf(pattern string) []node {
	var out []node
	name, optional := "", false
	end := func() {
		if name == "" {
			return
		}
		short := strings.TrimRightFunc(name, func(r rune) bool { return r >= 'a' && r <= 'z' })
		out = append(out, node{short, strings.ToUpper(name), optional})
		name = ""
	}
	for _, r := range pattern {
		switch r {
		case '[':
			end()
			optional = true
		case ']':
			end()
			optional = false
		case ':':
			end()
		default:
			name += string(r)
		}
	}
	end()
	return out
}

// is tells whether a word as sent is the node; any number behind it but 1 is out of range.
func (n node) is(word string) (yes, inRange bool) {
	word = strings.ToUpper(word)
	if word == n.short || word == n.long {
		return true, true
	}
	base := strings.TrimRight(word, "0123456789")
	if base != word && (base == n.short || base == n.long) {
		return true, word[len(base):] == "1"
	}
	return false, false
}

// match tells whether the words as sent are the header.
func match(nodes []node, words []string) (yes, inRange bool) {
	if len(nodes) == 0 {
		return len(words) == 0, true
	}
	if len(words) > 0 {
		if is, fits := nodes[0].is(words[0]); is {
			if yes, rest := match(nodes[1:], words[1:]); yes {
				return true, fits && rest
			}
		}
	}
	if nodes[0].optional {
		return match(nodes[1:], words)
	}
	return false, false
}

// split parts s at sep where it does not stand between quotes.
func split(s string, sep byte) []string {
	var out []string
	quote, from := byte(0), 0
	for i := 0; i < len(s); i++ {
		switch c := s[i]; {
		case quote != 0:
			if c == quote {
				quote = 0
			}
		case c == '"' || c == '\'':
			quote = c
		case c == sep:
			out = append(out, s[from:i])
			from = i + 1
		}
	}
	return append(out, s[from:])
}

// unit is one command of a message.
type unit struct {
	words  []string // of the header
	rooted bool     // it begins with a colon
	common bool     // it begins with a star
	query  bool
	args   []string
}

// white is what IEEE 488.2 takes for white space within a message.
func white(r rune) bool { return r <= ' ' }

// parseUnit reads one command; ok is false for an empty one.
func parseUnit(text string) (u unit, err Error, ok bool) {
	text = strings.TrimFunc(text, white)
	if text == "" {
		return u, NoError, false
	}
	head, rest := text, ""
	if i := strings.IndexFunc(text, white); i >= 0 {
		head, rest = text[:i], strings.TrimFunc(text[i:], white)
	}
	if strings.HasSuffix(head, "?") {
		u.query, head = true, head[:len(head)-1]
	}
	switch {
	case strings.HasPrefix(head, "*"):
		u.common, head = true, head[1:]
	case strings.HasPrefix(head, ":"):
		u.rooted, head = true, head[1:]
	}
	for i := 0; i < len(head); i++ {
		c := head[i] | 0x20
		if letter := c >= 'a' && c <= 'z'; !letter && !(head[i] >= '0' && head[i] <= '9') && head[i] != ':' && head[i] != '_' {
			return u, InvalidCharacter, true
		}
	}
	u.words = strings.Split(head, ":")
	for _, w := range u.words {
		if w == "" {
			return u, SyntaxError, true
		}
	}
	if rest != "" {
		for _, a := range split(rest, ',') {
			a = strings.TrimFunc(a, white)
			if a == "" {
				return u, MissingParameter, true
			}
			u.args = append(u.args, a)
		}
	}
	return u, NoError, true
}
