package httpapi

import (
	"context"
	"net/http"

	"github.com/danielgtaylor/huma/v2"
	"github.com/labstack/echo/v5"
)

const root = "/api/v1"

// register puts every route of the API on e and describes it. This is the table of them;
// kinds of measurement and calculations follow from their lists.
func (s *Server) register(e *echo.Echo) huma.API {
	api := huma.NewAPI(config(), adapter{e})

	get(api, "reviews", "list-reviews", "/reviews", "A page of the reviews, the newest change first", s.listReviews)
	post(api, "reviews", "add-review", "/reviews", "Start a review under an id made by the client", created, s.addReview)
	get(api, "reviews", "get-review", "/reviews/{id}", "One review", s.getReview)
	put(api, "reviews", "change-review", "/reviews/{id}", "Write a review on the version it was read at; 409 when it is stale", s.changeReview)
	put(api, "reviews", "put-review-away", "/reviews/{id}/away", "Put a review away, or bring it back; it and its editions stay", s.putAway)
	post(api, "reviews", "retest-review", "/reviews/{id}/retest", "Start the review of another unit of the model, or of the same after a change: same claims, sheet, paths and rule books", created, s.retest)
	get(api, "reviews", "get-board", "/reviews/{id}/board", "The ruling on a review, by its own rules or by others to try", s.getBoard)
	post(api, "reviews", "get-keying", "/reviews/{id}/staircase", "What is said before the radio is keyed into a path: levels, dangers and what would cure them", http.StatusOK, s.getKeying)
	get(api, "reviews", "get-sheet", "/reviews/{id}/sheet", "The run sheet: what is to be keyed, in which order, what it takes and what cannot count", s.getSheet)
	get(api, "reviews", "get-channel-list", "/reviews/{id}/channels", "The run sheet's frequencies as CSV, to programme the radio with", s.getChannelList)
	get(api, "reviews", "list-bands", "/bands", "The bands known in an ITU region, with their channels", s.listBands)

	post(api, "reviews", "get-unplanned", "/reviews/{id}/unplanned", "Read a step that is on no sheet, such as 144.1 h", http.StatusOK, s.getUnplanned)
	post(api, "reviews", "get-ways", "/reviews/{id}/ways", "The paths for each of some boxes, those that can count there first", http.StatusOK, s.getWays)
	get(api, "reviews", "get-ghosts", "/reviews/{id}/ghosts", "The powers of the unit of the same model measured before", s.getGhosts)

	get(api, "compare", "compare", "/compare", "Reviews beside each other: claimed to measured, and margins, by band and level", s.compare)
	get(api, "compare", "compare-file", "/compare/{file}", "The comparison of some reviews as SVG, PNG or CSV", s.compareFile)
	get(api, "compare", "list-comparisons", "/comparisons", "Comparisons that were frozen, the newest first", s.listComparisons)
	post(api, "compare", "freeze-comparison", "/comparisons", "Freeze a comparison of some reviews into a page of its own, under an id made by the client", created, s.freezeComparison)
	get(api, "compare", "get-comparison", "/comparisons/{id}", "A frozen comparison as a web page in one file, byte by byte", s.getComparison)
	post(api, "compare", "add-outside", "/reviews/{id}/outside", "Keep a figure of somebody else beside ours, with its source and date", created, s.addOutside)

	s.registerKinds(api, e)
	post(api, "measurements", "add-standing", "/reviews/{id}/standings", "Strike or doubt a measurement, explain it, or take that back, with a reason", created, s.addStanding)
	get(api, "measurements", "get-file", "/measurements/{id}/file", "The file a measurement was read from, as it came", s.getFile)

	get(api, "measurements", "list-photos", "/reviews/{id}/photos", "The photographs of a review", s.listPhotos)
	get(api, "measurements", "get-photo", "/photos/{id}", "A photograph", s.getPhoto)
	s.registerPhoto(api, e)

	get(api, "editions", "get-publish", "/reviews/{id}/publish", "What stands between a review and its next edition", s.getPublish)
	get(api, "editions", "preview-edition", "/reviews/{id}/preview", "The page as the next edition would show it", s.previewEdition)
	post(api, "editions", "freeze-edition", "/reviews/{id}/editions", "Freeze the next edition under an id made by the client, from what was seen", created, s.freezeEdition)
	get(api, "editions", "get-edition-page", "/editions/{id}/page", "An edition as a web page in one file, byte by byte as frozen", s.getEditionPage)
	get(api, "editions", "get-edition-file", "/editions/{id}/file", "The page in one file, to keep or to send: no request leaves it", s.getEditionFile)
	get(api, "editions", "get-edition-text", "/editions/{id}/text", "An edition as plain text, to paste or to read aloud", s.getEditionText)
	get(api, "editions", "get-edition-package", "/editions/{id}/package", "An edition's data package: its tables as CSV with their schema, its data and page, the original files, as a zip", s.getEditionPackage)
	get(api, "editions", "get-edition-pdf", "/editions/{id}/pdf", "An edition as PDF, for A4 or Letter, its fonts embedded", s.getEditionPDF)
	get(api, "editions", "get-edition-card", "/editions/{id}/cards/{file}", "A card of an edition for a video or a post, PNG; 404 with the reason where there is nothing that it could show", s.getEditionCard)
	get(api, "editions", "list-edition-plots", "/editions/{id}/plots", "The plots of an edition", s.listEditionPlots)
	get(api, "editions", "get-edition-plot", "/editions/{id}/plots/{file}", "A plot of an edition, SVG or PNG", s.getEditionPlot)
	get(api, "editions", "get-edition-data", "/editions/{id}/data", "An edition's data as JSON, byte by byte as frozen", s.getEditionData)

	get(api, "editions", "list-letters", "/reviews/{id}/letters", "What was written about a review, without what was replaced or taken out", s.listLetters)
	post(api, "editions", "add-letter", "/reviews/{id}/letters", "Keep what was written about a review, under an id made by the client; never changed, only replaced", created, s.addLetter)
	get(api, "editions", "get-lineage", "/reviews/{id}/lineage", "The editions of a review and of its re-tests in time, with what changed in each", s.getLineage)

	get(api, "publication", "get-publication", "/publication", "What is said once of the publication", s.getPublication)
	put(api, "publication", "put-publication", "/publication", "Say the ITU region of the publication, or who publishes; what is left out stays as it is", s.putPublication)

	get(api, "bench", "get-bench", "/bench", "The kit owned, the paths kept and the stacks measured", s.getBench)
	get(api, "bench", "list-kinds", "/bench/kinds", "The kinds of kit, each with its typical values", s.listKitKinds)
	get(api, "bench", "read-bench-line", "/lines/bench", "What a line typed at the bench says: a thing with its figures, or a path of owned things; nothing is kept", s.readBenchLine)
	get(api, "bench", "export-bench", "/bench/export", "The whole bench as a file, or one item of it", s.exportBench)
	post(api, "bench", "import-bench", "/bench/import", "Read a bench file: all of it or nothing; try only says what it would bring", http.StatusOK, s.importBench, large, unchecked)
	get(api, "bench", "get-bench-schema", "/bench/schema", "The JSON Schema of bench files", s.getBenchSchema)
	put(api, "bench", "put-kit", "/kit/{id}", "Write an item on the version it was read at, or a new one at version 0; retire it or take it back", s.putKit, large)
	remove(api, "bench", "remove-kit", "/kit/{id}", "Take a mistaken item off the bench; 409 when a measurement or a path names it", s.removeKit)
	get(api, "bench", "get-kit-touchstone", "/kit/{id}/touchstone", "The loss of an item as a two-port file; the file it was given, where there is one", s.getKitTouchstone)
	put(api, "bench", "put-path", "/paths/{id}", "Write a path on the version it was read at, or a new one at version 0", s.putPath)
	get(api, "bench", "get-path-touchstone", "/paths/{id}/touchstone", "The loss of a whole path as a two-port file", s.getPathTouchstone)
	post(api, "bench", "get-staircase", "/staircase", "Levels along a path, kept or only drawn, at a carrier and its multiples; dangers and what on the bench would cure them", http.StatusOK, s.getStaircase)
	post(api, "bench", "ask-pads", "/pad-advice", "Which owned pads, in which order, suit an analyzer, a power and a rule book", http.StatusOK, s.askPads)
	post(api, "bench", "try-stack", "/paths/{id}/stacks/preview", "Work a measured stack out without keeping it", http.StatusOK, s.tryStack, large)
	post(api, "bench", "add-stack", "/paths/{id}/stacks", "Keep a measured stack; its loss counts on this path from now on", created, s.addStack, large)
	get(api, "bench", "list-baselines", "/baselines", "Comparisons of meters, oldest first", s.listBaselines)
	post(api, "bench", "add-baseline", "/baselines", "Keep a comparison of meters; nothing is applied by it", created, s.addBaseline)
	post(api, "bench", "accept-baseline", "/baselines/{id}/accept", "Take a meter's offset out of later readings on it, dated and shown in the budget", http.StatusOK, s.acceptBaseline)
	get(api, "instruments", "list-drivers", "/instruments", "The drivers of instruments, and whether this server connects to any", s.listDrivers)
	get(api, "instruments", "get-driver", "/drivers/{driver}", "A driver as a file, in the shape of driver.schema.json", s.getDriver)
	get(api, "instruments", "get-driver-schema", "/drivers/schema", "The JSON Schema of drivers", s.getDriverSchema)
	post(api, "instruments", "add-driver", "/drivers", "Bring in a driver of the user's own, or another wording of it", created, s.addDriver, unchecked)
	remove(api, "instruments", "remove-driver", "/drivers/{driver}", "Take a driver of the user's own away", s.removeDriver)
	put(api, "instruments", "put-socket", "/kit/{id}/socket", "Write where an item listens, and its driver; an empty address takes it away", s.putSocket)
	post(api, "instruments", "try-instrument", "/kit/{id}/try", "Ask an instrument who it is, and try everything of its driver that changes nothing; a driver in the body is tried instead of the one kept", http.StatusOK, s.tryInstrument)
	post(api, "instruments", "read-power", "/paths/{id}/read", "Read the meter on a path, and its supply, by their sockets", http.StatusOK, s.readPower)
	post(api, "instruments", "set-instrument", "/kit/{id}/set", "Set a supply or a generator by its socket; what could hurt is sent only once it was confirmed", http.StatusOK, s.setInstrument)
	post(api, "instruments", "read-frequency", "/kit/{id}/read", "Read a counter by its socket", http.StatusOK, s.readFrequency)
	post(api, "instruments", "start-sweeping", "/reviews/{id}/sweeping", "Dial in the analyzer at the end of a path and let it sweep; nothing is sent into a path in danger", created, s.startSweeping)
	get(api, "instruments", "look-at-sweeping", "/sweeping/{id}", "How a sweeping stands, with its last whole sweep", s.lookAtSweeping)
	post(api, "instruments", "take-sweeping", "/sweeping/{id}/take", "End a sweeping and take its last whole sweep, to be kept as a file", http.StatusOK, s.takeSweeping)
	remove(api, "instruments", "end-sweeping", "/sweeping/{id}", "Let the analyzer go", s.endSweeping)
	get(api, "practice", "list-practice", "/practice", "What can be practised on a simulated bench, and what was", s.listPractice)
	post(api, "practice", "begin-practice", "/practice", "Begin a scenario in a review of its own, under an id made by the client", created, s.beginPractice)
	get(api, "practice", "get-practice", "/reviews/{id}/practice", "A practice bench as it is seen, and its score once it has ended", s.getPractice)
	post(api, "practice", "hand-on", "/reviews/{id}/practice/hand", "Do something with a hand on a practice bench", http.StatusOK, s.handOn)
	post(api, "practice", "end-practice", "/reviews/{id}/practice/end", "End a practice with what is suspected, and score it", http.StatusOK, s.endPractice)
	get(api, "scratch pad", "list-scratch", "/scratch", "The calculations of the scratch pad, with what is typed of each", s.listScratch)
	post(api, "scratch pad", "work-scratch", "/scratch/{calc}", "Work one out, with its formula in figures", http.StatusOK, s.workScratch)
	get(api, "rule books", "list-rule-books", "/rule-books", "The rule books that ship, and those of the user's own", s.listRuleBooks)
	get(api, "rule books", "export-rule-book", "/rule-books/{book}", "A rule book as a file, in the shape of rulebook.schema.json", s.exportRuleBook)
	post(api, "rule books", "add-rule-book", "/rule-books", "Put a rule book on the shelf, or a new wording of one of the user's own", created, s.addRuleBook, large, unchecked)
	post(api, "rule books", "check-rule-book", "/rule-books/{book}/checked", "Record that a book was held against its text", created, s.checkRuleBook)
	post(api, "rule books", "withdraw-rule-book", "/rule-books/{book}/withdrawn", "Take one of the user's own out of what is offered; reviews judged by it still are", created, s.withdrawRuleBook)

	e.GET("/editions/:id", s.readEdition)
	e.GET(eventsPath, s.events)
	s.registerCompute(api)
	refine(api.OpenAPI().Components.Schemas.Map())
	return api
}

const created = http.StatusCreated

type handler[In, Out any] func(context.Context, *In) (*Out, error)

// option changes an operation.
type option func(*huma.Operation)

// maxKit is the most that is read of an item or a bench, files on it included.
const maxKit = 4 << 20

func large(op *huma.Operation)     { op.MaxBodyBytes = maxKit }
func unchecked(op *huma.Operation) { op.SkipValidateBody = true }

func route[In, Out any](api huma.API, op huma.Operation, h handler[In, Out], options []option) {
	op.Path = root + op.Path
	op.BodyReadTimeout = -1 // byProgress minds that
	for _, o := range options {
		o(&op)
	}
	huma.Register(api, op, func(ctx context.Context, in *In) (*Out, error) {
		out, err := h(ctx, in)
		if err != nil {
			return nil, answer(err)
		}
		return out, nil
	})
}

func get[In, Out any](api huma.API, tag, id, path, summary string, h handler[In, Out]) {
	route(api, huma.Operation{OperationID: id, Method: http.MethodGet, Path: path, Summary: summary, Tags: []string{tag}}, h, nil)
}

func post[In, Out any](api huma.API, tag, id, path, summary string, status int, h handler[In, Out], options ...option) {
	route(api, huma.Operation{OperationID: id, Method: http.MethodPost, Path: path, Summary: summary, Tags: []string{tag}, DefaultStatus: status}, h, options)
}

func put[In, Out any](api huma.API, tag, id, path, summary string, h handler[In, Out], options ...option) {
	route(api, huma.Operation{OperationID: id, Method: http.MethodPut, Path: path, Summary: summary, Tags: []string{tag}}, h, options)
}

func remove[In, Out any](api huma.API, tag, id, path, summary string, h handler[In, Out]) {
	route(api, huma.Operation{OperationID: id, Method: http.MethodDelete, Path: path, Summary: summary, Tags: []string{tag}, DefaultStatus: http.StatusNoContent}, h, nil)
}
