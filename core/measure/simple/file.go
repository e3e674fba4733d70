package simple

import (
	"regexp"
	"strings"

	"talloak/core/problem"
)

// named are lines that name a file, by its extension.
var named = regexp.MustCompile(`^\S.*\.[a-zA-Z]\w{1,3}$`)

// FileGone is what is wrong with a line that names a file which did not come with it; nil of any other
// line.
func FileGone(text string) error {
	if text = strings.TrimSpace(text); !named.MatchString(text) {
		return nil
	}
	return problem.New("text", "the file %s is not here, as after the page was loaded anew: drop it again", text)
}
