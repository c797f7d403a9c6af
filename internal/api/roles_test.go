package api

import (
	"context"
	"encoding/json"
	"fmt"
	"slices"
	"strings"
	"testing"

	"github.com/getkin/kin-openapi/openapi3"
	"github.com/google/uuid"

	"obturon/internal/document"
	"obturon/internal/password"
	"obturon/internal/store"
)

// attempt is a request that goes as far as it is let, and computes nothing.
type attempt struct {
	path, body string
	headers    []string
}

// attempts by operation; %s is a case.
var attemptsAt = map[string]attempt{
	"getHealth":           {path: "/health"},
	"signIn":              {path: "/session", body: `{"sign_in":"nobody","password":"x"}`},
	"listDemoSignIns":     {path: "/demo-sign-ins"},
	"getSession":          {path: "/session"},
	"listTeeth":           {path: "/teeth"},
	"readTooth":           {path: "/teeth/46"},
	"chartTooth":          {path: "/teeth/99/chart"},
	"benchBitewing":       {path: "/teeth/99/bitewing?site=mesial"},
	"readFilm":            {path: "/teeth/99/film-depth?site=mesial&mm=1"},
	"listArches":          {path: "/arches"},
	"studyTooth":          {path: "/study/99?age=1"},
	"studyNeighbours":     {path: "/study/99/neighbours?age=1"},
	"studySection":        {path: "/study/99/section?age=1&axis=level&at=1"},
	"studyTouch":          {path: "/study/99/touch?age=1&x=1&y=1&z=1"},
	"askQuiz":             {path: "/study/99/quiz?age=1&question=1"},
	"answerQuiz":          {path: "/study/99/quiz?age=1&question=1", body: `{}`},
	"listQuizResults":     {path: "/quiz/results"},
	"listSchools":         {path: "/schools"},
	"copySchool":          {path: "/schools", body: `{"base":"bored","name":"x"}`},
	"getHouseRules":       {path: "/schools/board"},
	"saveHouseRules":      {path: "/schools/house-nowhere", body: `{"id":"house-nowhere","version":"1","name":"x","criteria":[]}`},
	"archiveHouseRules":   {path: "/schools/house-nowhere"},
	"unarchiveHouseRules": {path: "/schools/house-nowhere/unarchive"},
	"listInstruments":     {path: "/instruments"},
	"getConstants":        {path: "/strength-constants"},
	"getProducts":         {path: "/products"},
	"saveProducts":        {path: "/products", body: `{"version":7,"products":[]}`},
	"saveConstants":       {path: "/strength-constants", body: `{"version":7,"own":[]}`},
	"getKit":              {path: "/kit"},
	"saveKit":             {path: "/kit", body: `{"version":7,"kit":{"schema":"obturon.kit/1","items":[]}}`},
	"advise":              {path: "/advice", body: `{}`},
	"evaluate":            {path: "/evaluate", body: `{}`},
	"evaluateSolid":       {path: "/evaluate/solid", body: `{}`},
	"compareFinishes":     {path: "/evaluate/finishes", body: `{}`},
	"solveProposal":       {path: "/evaluate/solve", body: `{}`},
	"evaluateFilling":     {path: "/evaluate/filling", body: `{}`},
	"evaluateHold":        {path: "/evaluate/hold", body: `{}`}, "evaluateDeflection": {path: "/evaluate/deflection", body: `{}`}, "evaluateStrain": {path: "/evaluate/strain?at=0&as=cut", body: `{}`},
	"evaluatePull":     {path: "/evaluate/pull?mesial=0&facial=0", body: `{}`},
	"evaluateSections": {path: "/evaluate/sections?at=0", body: `{}`},
	"rehearseSequence": {path: "/evaluate/sequence", body: `{}`}, "drawStage": {path: "/evaluate/sequence/stage?step=0", body: `{}`},
	"compareSchools":   {path: "/compare?schools=board&schools=board", body: `{}`},
	"listCases":        {path: "/cases"},
	"createCase":       {path: "/cases", body: `{}`},
	"findPatient":      {path: "/patients/HV-999"},
	"getCase":          {path: "/cases/%s"},
	"archiveCase":      {path: "/cases/%s"},
	"unarchiveCase":    {path: "/cases/%s/unarchive"},
	"correctBirthYear": {path: "/cases/%s/birth-year", body: `{"birth_year":2099}`},
	"saveDraft":        {path: "/cases/%s/draft", body: caseDocument, headers: []string{"If-Match", "999"}},
	"fixRevision":      {path: "/cases/%s/revisions", headers: []string{"If-Match", "999"}},
	"getRevision":      {path: "/cases/%s/revisions/1"},
	"getCaseFile":      {path: "/cases/%s/files/case.json"},
	"judgeUnder":       {path: "/cases/%s/under/bored"},
	"listRuns":         {path: "/cases/%s/runs"},
	"startRun":         {path: "/cases/%s/runs", body: `{"limit_minutes":-1}`},
	"getRun":           {path: "/cases/%s/runs/00000000-0000-4000-8000-000000000000"},
	"keepRunEvents":    {path: "/cases/%s/runs/00000000-0000-4000-8000-000000000000/events", body: `[{"id":"00000000-0000-4000-8000-000000000001","kind":"done","step":0,"at_seconds":1}]`},
	"lastFineRun":      {path: "/cases/%s/fine-deflection"},
	"startFineRun":     {path: "/cases/%s/fine-deflection", body: `{"newtons":0}`},
	"cancelFineRun":    {path: "/cases/%s/fine-deflection/00000000-0000-4000-8000-000000000000"},
	"lastTolerance":    {path: "/cases/%s/tolerance"},
	"startTolerance":   {path: "/cases/%s/tolerance", body: `{"runs":0}`},
	"cancelTolerance":  {path: "/cases/%s/tolerance/00000000-0000-4000-8000-000000000000"},
	"planSitting":      {path: "/cases/%s/sitting"},
	"signOut":          {path: "/session"},
}

// Who may do what, written down a second time. "all" is everyone who is signed in;
// of cases: whose they may be.
var mayDo = map[string]map[Role]string{
	"read":    {document.Dentist: "own learner dentist", document.Learner: "own", document.Teacher: "own learner", document.Administrator: "learner dentist"},
	"change":  {document.Dentist: "own learner dentist", document.Learner: "own", document.Teacher: "own"},
	"archive": {document.Dentist: "own learner dentist", document.Teacher: "own learner", document.Administrator: "learner dentist"},
	"correct": {document.Dentist: "own learner dentist", document.Learner: "own", document.Teacher: "own learner", document.Administrator: "learner dentist"},
	"start":   {document.Dentist: "yes", document.Learner: "yes", document.Teacher: "yes"},
	"rules":   {document.Dentist: "yes", document.Teacher: "yes", document.Administrator: "yes"},
	"all":     {document.Dentist: "yes", document.Learner: "yes", document.Teacher: "yes", document.Administrator: "yes"},
}

// ofNothing are tried on what a case does not have.
var ofNothing = []string{"getRevision", "getRun", "keepRunEvents", "cancelTolerance", "cancelFineRun"}

var deedOf = map[string]string{
	"getCase": "read", "getRevision": "read", "getCaseFile": "read", "judgeUnder": "read", "planSitting": "read", "listRuns": "read", "getRun": "read", "lastTolerance": "read", "startTolerance": "change", "cancelTolerance": "change", "lastFineRun": "read", "startFineRun": "change", "cancelFineRun": "change", "startRun": "change", "keepRunEvents": "change",
	"saveDraft": "change", "fixRevision": "change", "archiveCase": "archive", "unarchiveCase": "archive", "correctBirthYear": "correct",
	"createCase": "start", "findPatient": "start", "copySchool": "rules", "saveHouseRules": "rules", "archiveHouseRules": "rules", "unarchiveHouseRules": "rules", "saveKit": "rules", "saveConstants": "rules", "saveProducts": "rules",
}

// member adds someone to a practice and signs them in.
func member(t *testing.T, practice *store.Practice, role Role) (*store.User, client) {
	t.Helper()
	hash, err := password.Hash("bench-password")
	if err != nil {
		t.Fatal(err)
	}
	u, err := testStore.AddUser(context.Background(), store.User{PracticeID: practice.ID, SignIn: string(role) + uuid.NewString()[:8], Name: "A " + string(role), Role: string(role), PasswordHash: hash})
	if err != nil {
		t.Fatal(err)
	}
	c := stranger(t)
	if status, body := c.send("POST", "/api/session", `{"sign_in":"`+u.SignIn+`","password":"bench-password"}`); status != 200 {
		t.Fatalf("signing in answers %d %s", status, body)
	}
	return u, c
}

func practiceOf(t *testing.T) *store.Practice {
	t.Helper()
	p, err := testStore.EnsurePractice(context.Background(), "Practice "+uuid.NewString())
	if err != nil {
		t.Fatal(err)
	}
	return p
}

func TestEveryRouteKnowsWhoMay(t *testing.T) {
	contract, err := openapi3.NewLoader().LoadFromData(document.Contract)
	if err != nil {
		t.Fatal(err)
	}
	here, elsewhere := practiceOf(t), practiceOf(t)
	roles := []Role{document.Dentist, document.Learner, document.Teacher, document.Administrator}
	_, otherDentist := member(t, here, document.Dentist)
	_, otherLearner := member(t, here, document.Learner)
	_, foreigner := member(t, elsewhere, document.Dentist)
	cases := map[string]string{
		"learner": otherLearner.newCase("HV-971").Id.String(), "dentist": otherDentist.newCase("HV-972").Id.String(), "elsewhere": foreigner.newCase("HV-973").Id.String(),
	}
	for _, role := range roles {
		u, c := member(t, here, role)
		relations := map[string]string{"learner": cases["learner"], "dentist": cases["dentist"], "elsewhere": cases["elsewhere"]}
		if mayDo["start"][role] != "" {
			relations["own"] = c.newCase("HV-974").Id.String()
		}
		for address, name := range operationNames(contract) {
			try, listed := attemptsAt[name]
			if !listed {
				t.Fatalf("%s is tried by nobody: add it here, and to who may", name)
			}
			if name == "signOut" {
				continue
			}
			method, _, _ := strings.Cut(address, " ")
			allowed := mayDo[deedOf[name]]
			if allowed == nil {
				allowed = mayDo["all"]
			}
			if !strings.Contains(try.path, "%s") {
				status, body := c.send(method, "/api"+try.path, try.body, try.headers...)
				if refused := status == 403; refused != (allowed[role] == "") || (status == 401 && name != "signIn") {
					t.Errorf("%s as %s answers %d %s", name, role, status, body)
				}
				continue
			}
			for relation, id := range relations {
				status, body := c.send(method, "/api"+fmt.Sprintf(try.path, id), try.body, try.headers...)
				want := slices.Contains(strings.Fields(allowed[role]), relation)
				switch {
				case relation == "elsewhere" && allowed[role] != "":
					if status != 404 {
						t.Errorf("%s of another practice's case as %s answers %d", name, role, status)
					}
				case want == (status == 403) || status == 401 || (want && status == 404 && !slices.Contains(ofNothing, name)):
					t.Errorf("%s of %s's case as %s answers %d %s", name, relation, role, status, body)
				}
			}
		}
		says := permissionsOf(u)
		for deed, permission := range map[string]Permission{"start": document.MayStartCase, "rules": document.MayChangeRules, "archive": document.MayArchiveCase} {
			if slices.Contains(says, permission) != (mayDo[deed][role] != "") {
				t.Errorf("a %s is told of %v", role, says)
			}
		}
	}
}

func TestListsShowWhatMayBeRead(t *testing.T) {
	here := practiceOf(t)
	_, dentist := member(t, here, document.Dentist)
	_, learner := member(t, here, document.Learner)
	_, another := member(t, here, document.Learner)
	_, teacher := member(t, here, document.Teacher)
	_, office := member(t, here, document.Administrator)
	for _, c := range []client{dentist, learner, another, teacher} {
		c.newCase("HV-975")
	}
	for name, k := range map[string]struct {
		client
		want int
		may  string // of a learner's case, as the list says it
	}{
		"dentist": {dentist, 4, "read_case change_case archive_case correct_patient"}, "learner": {learner, 1, "read_case change_case correct_patient"},
		"teacher": {teacher, 3, "read_case archive_case correct_patient"}, "office": {office, 4, "read_case archive_case correct_patient"},
	} {
		_, body := k.send("GET", "/api/cases", "")
		var page CasePage
		if err := json.Unmarshal([]byte(body), &page); err != nil || len(page.Cases) != k.want {
			t.Errorf("%s sees %d cases, %v", name, len(page.Cases), err)
		}
		for _, c := range page.Cases {
			if c.By == "A learner" && fmt.Sprint(c.May) != "["+k.may+"]" {
				t.Errorf("%s is told of %v", name, c.May)
			}
		}
	}
}

func TestNothingOfTheContractIsForgotten(t *testing.T) {
	contract, err := openapi3.NewLoader().LoadFromData(document.Contract)
	if err != nil {
		t.Fatal(err)
	}
	known := operationNames(contract)
	for address, name := range known {
		if _, listed := operations[name]; !listed {
			t.Errorf("%s (%s) is let through by nobody", name, address)
		}
	}
	if len(known) != len(operations) {
		t.Errorf("%d operations are listed, the contract has %d", len(operations), len(known))
	}
}
