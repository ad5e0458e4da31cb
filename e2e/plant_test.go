package e2e

import (
	"bytes"
	"encoding/base64"
	"os"
	"os/exec"
	"path/filepath"
	"regexp"
	"strings"
	"syscall"
	"testing"
	"time"

	"github.com/google/uuid"
	"github.com/jackc/pgx/v5"
	"github.com/stretchr/testify/require"

	"dynacor/internal/app"
	"dynacor/internal/pgdev/pgtest"
	"dynacor/internal/sheets"
	"dynacor/internal/store"
)

// commands are those of the README for real use, in their order.
func commands(t *testing.T) (out []string) {
	t.Helper()
	b, err := os.ReadFile("../README.md")
	require.NoError(t, err)
	_, section, found := strings.Cut(string(b), "## For real use")
	require.True(t, found)
	section, _, _ = strings.Cut(section, "\n## ")
	for _, line := range strings.Split(section, "\n") {
		if c, ok := strings.CutPrefix(line, "    dynacor "); ok {
			c, _, _ = strings.Cut(c, "    #")
			out = append(out, strings.TrimSpace(c))
		}
	}
	require.NotEmpty(t, out)
	return out
}

// From an empty PostgreSQL to the first signed joint, by the README's commands alone: the
// site, its people and areas, a joint from planning, made, signed by two, and verified from
// its PDF without a server.
func TestFromNothingToTheFirstSignedJoint(t *testing.T) {
	t.Parallel()
	folder := t.TempDir()
	owner, server := pgtest.Roles(t, pgtest.Empty(t))
	serving, err := pgx.ParseConfig(server)
	require.NoError(t, err)
	require.NoError(t, os.WriteFile(filepath.Join(folder, "areas.txt"), []byte("Penstock gallery\nTurbine pit\n"), 0o600))
	s := &site{t: t, database: owner, address: "127.0.0.1:0", settings: []string{"DYNACOR_KEY=" + filepath.Join(folder, "seal.key")}}
	pins, key := map[string]string{}, ""
	for _, c := range commands(t) {
		name, _, _ := strings.Cut(c, " ")
		if name == "serve" {
			s.database = server
			s.settings = append(s.settings, "DYNACOR_AUDIT_EVERY=0")
			s.start()
			t.Cleanup(func() { _ = s.cmd.Process.Signal(syscall.SIGTERM); _ = s.cmd.Wait() })
			s.firstJoint(pins, filepath.Join(folder, "record.pdf"))
			continue
		}
		c = strings.NewReplacer("--for dynacor", "--for "+serving.User, "KEY", key, "/var/backups/dynacor", folder).Replace(c)
		cmd := exec.Command("bash", "-c", "exec "+binary+" "+c)
		cmd.Dir, cmd.Env = folder, s.command().Env
		out, err := cmd.CombinedOutput()
		require.NoError(t, err, "%s: %s", c, out)
		if m := regexp.MustCompile(`signs in as (\S+) with the PIN (\d+)`).FindSubmatch(out); m != nil {
			pins[string(m[1])] = string(m[2])
		}
		if m := regexp.MustCompile(`(?m)^  ([0-9a-f]{64})$`).FindSubmatch(out); m != nil {
			key = string(m[1])
		}
		switch name {
		case "verify":
			require.Contains(t, string(out), "It is what was signed")
			require.Contains(t, string(out), "PS-1 / BYPASS")
		case "audit":
			require.Contains(t, string(out), "all of it holds")
		}
	}
	require.Len(t, pins, 4)
}

// firstJoint takes a joint in from planning, issues, makes and signs it, and writes its
// record.
func (s *site) firstJoint(pins map[string]string, to string) {
	t := s.t
	db, err := store.Open(t.Context(), s.database)
	require.NoError(t, err)
	defer db.Close()
	look := app.New(db, time.Now)
	base := "http://" + s.address
	people := map[string]*device{}
	for login, once := range pins {
		d := deviceOf(t, base, login, once, look)
		d.pin = "286413"
		require.NoError(t, d.ask("PUT", "/api/session/pin", sent{"old": once, "pin": d.pin}, nil))
		people[login] = d
	}
	planner, engineer, fitter, inspector := people["edda"], people["edda"], people["marta"], people["ines"]
	var b bytes.Buffer
	require.NoError(t, sheets.XLSX(&b, "Joints", sheets.Table{
		Headings: []string{"Tag", "Area", "What it is", "Kind of joint", "Torque (N·m)", "Gasket thickness (mm)", "Gap limit (mm)",
			"Bolts", "Thread",
			"Grade", "Lubricant", "Written for", "Which gasket", "Which faces", "Which bolts",
			"Test pressure (bar)", "How long it is held (min)", "Pressure that may be lost (bar)"},
		Lines: [][]string{{"PS-1 / BYPASS", "Penstock gallery", "Bypass flange", "Gasketed pipe flange", "260", "3", "0.8", "8", "M20",
			"8.8",
			"light oil", "light oil", "sheet", "raised", "machine bolts", "16", "10", "0.2"}}}))
	file := base64.StdEncoding.EncodeToString(b.Bytes())
	var look1 struct {
		Columns []struct{ Heading, Field string }
	}
	require.NoError(t, planner.ask("POST", "/api/imports/look", sent{"file": file}, &look1))
	var columns []string
	for _, c := range look1.Columns {
		columns = append(columns, c.Field)
	}
	columns[5], columns[6] = "value gasket thickness", "value gap limit" // chosen on screen: planners call them otherwise
	columns[15], columns[16], columns[17] = "value test pressure", "value test time", "value test drop"
	var got struct{ Fresh, Wrong int }
	require.NoError(t, planner.ask("POST", "/api/imports", sent{"file": file, "columns": columns}, &got))
	require.Equal(t, 1, got.Fresh, "%+v %v", got, columns)
	joints, err := db.Joints(t.Context())
	require.NoError(t, err)
	require.Len(t, joints, 1)
	path := "/api/joints/" + joints[0].ID.String()
	var j struct{ Run struct{ ID uuid.UUID } }
	require.NoError(t, engineer.ask("POST", path+"/issue", sent{"version": 1, "pin": engineer.pin, "run": uuid.New()}, &j))
	state := fitter.makes(t, j.Run.ID)
	require.Empty(t, state.Standing.Station()-5, "it waits for its signatures")
	fitter.signs(t, j.Run.ID, "made", "")
	inspector.signs(t, j.Run.ID, "checked", "A wrench of our own, seen and checked; accepted.")
	var pdf []byte
	require.NoError(t, inspector.ask("GET", path+"/record/pdf", nil, &pdf))
	require.NoError(t, os.WriteFile(to, pdf, 0o600))
}
