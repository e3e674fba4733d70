// Command mutants takes rules of the job out, one at a time, and sees whether a test misses them: every
// condition of the core's rule rooms is made false in turn, and every threshold moved by a fifth either
// way; or those of rules.txt. It changes no file: go gets an overlay. Start it as scripts/mutants.sh.
package main

import (
	"bytes"
	"cmp"
	"context"
	"encoding/json"
	"flag"
	"fmt"
	"go/ast"
	"go/parser"
	"go/token"
	"math/rand/v2"
	"os"
	"os/exec"
	"path/filepath"
	"runtime"
	"slices"
	"strconv"
	"strings"
	"sync"
	"time"
)

// rooms are where the rules are.
var rooms = []string{
	"board", "claims", "decision", "diagnose", "judge", "keying", "measure", "measure/antenna", "measure/battery", "measure/deviation", "measure/emissions", "measure/features", "measure/frequency",
	"measure/occupied", "measure/power", "measure/receiver", "measure/sensitivity", "measure/simple", "measure/supply", "reading", "rulebook", "runsheet", "uncertainty", "wiring",
}

// mutant is one change of one file.
type mutant struct {
	room, file string
	line       int
	from, to   int // bytes
	was, now   string
	source     []byte // of the file, as it was read: who works on it meanwhile spoils nothing
	number     int    // by which it is switched on in the tests built with all conditions; 0 where it is built for itself
}

// name tells it however lines move.
func (m mutant) name() string { return filepath.Base(m.file) + ": " + m.was + " => " + m.now }

func main() {
	sample := flag.Int("n", 0, "how many, chosen by chance; 0 for all")
	seed := flag.Uint64("seed", 1, "of the choice")
	list := flag.Bool("list", false, "tell them and try none")
	rules := flag.Bool("rules", false, "those of rules.txt, the rules of the job; else every condition and threshold of the rooms")
	only := flag.String("room", "", "one room alone, such as judge")
	flag.Parse()
	all := []mutant{}
	if *rules {
		all = listed(*only)
	}
	for _, room := range rooms {
		if !*rules && (*only == "" || *only == room) {
			all = append(all, mutantsOf(room)...)
		}
	}
	rand.New(rand.NewPCG(*seed, 1)).Shuffle(len(all), func(i, j int) { all[i], all[j] = all[j], all[i] })
	if *sample > 0 {
		all = all[:min(*sample, len(all))]
	}
	if *list {
		for _, m := range all {
			fmt.Printf("%s:%d\t%s\t%s\n", m.file, m.line, m.was, m.now)
		}
		return
	}
	known := knownSurvivors()
	survived := []mutant{}
	explained, none := 0, 0
	var mu sync.Mutex
	var work sync.WaitGroup
	queue := make(chan mutant)
	built := build(all)
	defer os.RemoveAll(built.dir)
	for range runtime.NumCPU() {
		work.Go(func() {
			for m := range queue {
				missed, is := built.caught(m)
				mu.Lock()
				if !is {
					none++
				}
				if !is || missed {
					mu.Unlock()
					continue
				}
				if why := known[m.name()]; why != "" {
					explained++
					fmt.Printf("survives, as it may: %s:%d %s: %s\n", m.file, m.line, m.name(), why)
				} else {
					survived = append(survived, m)
					fmt.Printf("SURVIVES: %s:%d %s\n", m.file, m.line, m.name())
				}
				mu.Unlock()
			}
		})
	}
	for i, m := range all {
		if queue <- m; i%25 == 24 {
			fmt.Fprintf(os.Stderr, "%d of %d\n", i+1, len(all))
		}
	}
	close(queue)
	work.Wait()
	of := len(all) - none
	rate := 100 * float64(of-len(survived)) / float64(max(1, of))
	fmt.Printf("%d of %d caught or explained (%d explained), %.1f %%\n", of-len(survived), of, explained, rate)
	if rate < 95 {
		_ = os.RemoveAll(built.dir)
		os.Exit(1)
	}
}

// caught tells whether a test fails with a mutant that is built for itself: of its own room, else of any in
// the core that uses it. What does not compile is no mutant.
func caught(m mutant) (caught, is bool) {
	dir, err := os.MkdirTemp("", "mutant")
	check(err)
	defer os.RemoveAll(dir)
	list := overlay(dir, map[string][]byte{m.file: slices.Concat(m.source[:m.from], []byte(m.now), m.source[m.to:])})
	own := "talloak/core/" + m.room
	for _, what := range [][]string{{own}, users(own)} {
		ctx, stop := context.WithTimeout(context.Background(), 5*time.Minute)
		out, err := exec.CommandContext(ctx, "go", slices.Concat([]string{"test", "-failfast", "-vet=off", "-overlay", list}, what)...).CombinedOutput()
		stop()
		if err != nil {
			return true, !bytes.Contains(out, []byte("[build failed]"))
		}
	}
	return false, true
}

// overlay writes files where go finds them in place of those there are.
func overlay(dir string, files map[string][]byte) string {
	replace := map[string]string{}
	for file, content := range files {
		at, err := filepath.Abs(file)
		check(err)
		replace[at] = filepath.Join(dir, fmt.Sprintf("%d.go", len(replace)))
		check(os.WriteFile(replace[at], content, 0o600))
	}
	text, err := json.Marshal(map[string]any{"Replace": replace})
	check(err)
	list := filepath.Join(dir, "overlay.json")
	check(os.WriteFile(list, text, 0o600))
	return list
}

// users are the packages of the core whose tests use a package, itself left out.
var users = func() func(string) []string {
	var once sync.Once
	of := map[string][]string{}
	return func(own string) []string {
		once.Do(func() {
			out, err := exec.Command("go", "list", "-test", "-f", `{{.ImportPath}}{{range .Deps}} {{.}}{{end}}`, "./core/...").Output()
			check(err)
			for line := range strings.SplitSeq(string(out), "\n") {
				name, deps, _ := strings.Cut(line, " ")
				user, tests := strings.CutSuffix(name, ".test")
				for _, d := range strings.Fields(deps) {
					if tests && d != user && !slices.Contains(of[d], user) {
						of[d] = append(of[d], user)
					}
				}
			}
		})
		return of[own]
	}
}()

// listed are the rules of rules.txt, of one room where it is named: each is found once, or the list is out of date.
func listed(only string) []mutant {
	text, err := os.ReadFile(filepath.Join("scripts", "mutants", "rules.txt"))
	check(err)
	var out []mutant
	for n, line := range strings.Split(strings.TrimSpace(string(text)), "\n") {
		if strings.HasPrefix(line, "#") {
			continue
		}
		p := strings.Split(strings.NewReplacer(`\n`, "\n").Replace(line), "\t")
		if len(p) != 4 {
			check(fmt.Errorf("rules.txt:%d: four fields with tabs between", n+1))
		}
		was, now := strings.ReplaceAll(p[1], `\t`, "\t"), strings.ReplaceAll(p[2], `\t`, "\t")
		file := filepath.Join("core", p[0])
		source, err := os.ReadFile(file)
		check(err)
		if bytes.Count(source, []byte(was)) != 1 {
			check(fmt.Errorf("rules.txt:%d: %q stands %d times in %s", n+1, was, bytes.Count(source, []byte(was)), file))
		}
		at := bytes.Index(source, []byte(was))
		if room := filepath.Dir(p[0]); only == "" || only == room {
			out = append(out, mutant{room, file, 1 + bytes.Count(source[:at], []byte("\n")), at, at + len(was), p[3] + ": " + was, now, source, 0})
		}
	}
	return out
}

func mutantsOf(room string) []mutant {
	files, err := filepath.Glob(filepath.Join("core", room, "*.go"))
	check(err)
	var out []mutant
	for _, file := range files {
		if strings.HasSuffix(file, "_test.go") {
			continue
		}
		source, err := os.ReadFile(file)
		check(err)
		set := token.NewFileSet()
		tree, err := parser.ParseFile(set, file, source, 0)
		check(err)
		at := func(n ast.Node, now string) {
			from, to := set.Position(n.Pos()).Offset, set.Position(n.End()).Offset
			was := strings.Join(strings.Fields(string(source[from:to])), " ")
			out = append(out, mutant{room, file, set.Position(n.Pos()).Line, from, to, was, now, source, 0})
		}
		take := func(cond ast.Expr) {
			if cond == nil {
				return
			}
			text := string(source[set.Position(cond.Pos()).Offset:set.Position(cond.End()).Offset])
			if strings.Contains(text, "err ") || strings.Contains(text, "err)") || text == "ok" || text == "!ok" {
				return // how a failure is passed on is no rule of the job
			}
			at(cond, "("+text+") && false")
		}
		ast.Inspect(tree, func(n ast.Node) bool {
			switch n := n.(type) {
			case *ast.IfStmt:
				take(n.Cond)
			case *ast.SwitchStmt:
				if n.Tag != nil {
					return true
				}
				for _, c := range n.Body.List {
					for _, cond := range c.(*ast.CaseClause).List {
						take(cond)
					}
				}
			case *ast.GenDecl:
				if n.Tok != token.CONST {
					return true
				}
				for _, s := range n.Specs {
					for _, v := range s.(*ast.ValueSpec).Values {
						if lit, ok := v.(*ast.BasicLit); ok && lit.Kind == token.FLOAT || ok && lit.Kind == token.INT && lit.Value != "0" && lit.Value != "1" {
							if f, err := strconv.ParseFloat(strings.ReplaceAll(lit.Value, "_", ""), 64); err == nil && lit.Kind == token.FLOAT {
								at(lit, strconv.FormatFloat(1.2*f, 'g', -1, 64))
								at(lit, strconv.FormatFloat(f/1.2, 'g', -1, 64))
							}
						}
					}
				}
			}
			return true
		})
	}
	slices.SortFunc(out, func(a, b mutant) int { return cmp.Or(cmp.Compare(a.file, b.file), cmp.Compare(a.from, b.from)) })
	return out
}

// knownSurvivors are mutants that no test can or need miss, with why: lines of name, a tab, why.
func knownSurvivors() map[string]string {
	text, err := os.ReadFile(filepath.Join("scripts", "mutants", "survivors.txt"))
	check(err)
	out := map[string]string{}
	for _, line := range strings.Split(string(text), "\n") {
		if name, why, ok := strings.Cut(line, "\t"); ok && !strings.HasPrefix(line, "#") {
			out[name] = why
		}
	}
	return out
}

func check(err error) {
	if err != nil {
		fmt.Fprintln(os.Stderr, err)
		os.Exit(2)
	}
}
