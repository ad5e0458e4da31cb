package pgdev_test

import (
	"context"
	"os"
	"os/exec"
	"path/filepath"
	"strings"
	"syscall"
	"testing"
	"time"

	"github.com/jackc/pgx/v5"
	"github.com/stretchr/testify/require"

	"dynacor/internal/pgdev"
)

func folder(t *testing.T) string {
	dir, err := os.MkdirTemp("", "dynacor-pgdev-")
	require.NoError(t, err)
	require.NoError(t, os.Chmod(dir, 0o755))
	t.Cleanup(func() { _ = os.RemoveAll(dir) })
	return filepath.Join(dir, "pg")
}

func write(t *testing.T, c *pgdev.Cluster, sql string) {
	ctx := context.Background()
	conn, err := pgx.Connect(ctx, c.URL("postgres"))
	require.NoError(t, err)
	defer conn.Close(ctx)
	_, err = conn.Exec(ctx, sql)
	require.NoError(t, err)
}

func TestDataStaysBetweenStarts(t *testing.T) {
	dir := folder(t)
	c, err := pgdev.Start(context.Background(), pgdev.Options{Folder: dir, Fleeting: true})
	require.NoError(t, err)
	write(t, c, "create table kept (n int); insert into kept values (7)")
	c.Stop()
	c, err = pgdev.Start(context.Background(), pgdev.Options{Folder: dir, Fleeting: true})
	require.NoError(t, err)
	defer c.Stop()
	write(t, c, "update kept set n = 8 where n = 7")
}

// A server whose parent was killed ends by itself; one that was left running
// all the same is stopped at the next start, and its data is there.
func TestALeftClusterIsRecovered(t *testing.T) {
	if dir := os.Getenv("PGDEV_CHILD"); dir != "" {
		child(t, dir)
		return
	}
	dir := folder(t)
	cmd := exec.Command(os.Args[0], "-test.run", "TestALeftClusterIsRecovered")
	cmd.Env = append(os.Environ(), "PGDEV_CHILD="+dir)
	out, err := cmd.StdoutPipe()
	require.NoError(t, err)
	require.NoError(t, cmd.Start())
	ready := make([]byte, 5)
	_, err = out.Read(ready)
	require.NoError(t, err)
	require.Equal(t, "ready", string(ready))
	require.NoError(t, cmd.Process.Signal(syscall.SIGKILL))
	_ = cmd.Wait()
	c, err := pgdev.Start(context.Background(), pgdev.Options{Folder: dir})
	require.NoError(t, err)
	write(t, c, "insert into kept values (2)")
	c.Stop()
	pid, err := os.ReadFile(filepath.Join(dir, "pg", "postmaster.pid"))
	require.True(t, os.IsNotExist(err), "the server has stopped: %s", strings.TrimSpace(string(pid)))
}

func child(t *testing.T, dir string) {
	c, err := pgdev.Start(context.Background(), pgdev.Options{Folder: dir})
	require.NoError(t, err)
	write(t, c, "create table kept (n int); insert into kept values (1)")
	_, _ = os.Stdout.WriteString("ready")
	<-time.After(time.Minute)
}

func TestRemoveBeginsAnew(t *testing.T) {
	dir := folder(t)
	c, err := pgdev.Start(context.Background(), pgdev.Options{Folder: dir, Fleeting: true})
	require.NoError(t, err)
	c.Stop()
	require.NoError(t, pgdev.Remove(dir))
	_, err = os.Stat(dir)
	require.True(t, os.IsNotExist(err))
	require.NoError(t, pgdev.Remove(dir), "nothing there is nothing to remove")
}
