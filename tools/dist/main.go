// Command dist builds what is given out: one program for each system, in a zip with how to start it and the licences, and
// the checksums of all. Two builds of one commit are the same to the byte.
//
//	go run ./tools/dist [-version V] [-only linux/amd64] DIR
package main

import (
	"archive/zip"
	"bytes"
	"crypto/sha256"
	"encoding/json"
	"errors"
	"flag"
	"fmt"
	"io"
	"os"
	"os/exec"
	"path/filepath"
	"slices"
	"strings"
	"time"
)

// mostSize is how large a program may be, in bytes.
const mostSize = 40 << 20

var targets = []string{"linux/amd64", "linux/arm64", "windows/amd64", "windows/arm64", "darwin/amd64", "darwin/arm64"}

func main() {
	version := flag.String("version", "", "what it calls itself (default: of the commit)")
	only := flag.String("only", "", "one system, as linux/amd64 (default: all)")
	flag.Parse()
	if err := dist(flag.Arg(0), *version, *only); err != nil {
		fmt.Fprintln(os.Stderr, "dist:", err)
		os.Exit(1)
	}
}

func dist(dir, version, only string) error {
	if dir == "" {
		return errors.New("name a folder")
	}
	if version == "" {
		version = strings.TrimSpace(output("git", "describe", "--always", "--tags", "--dirty"))
	}
	for _, t := range targets {
		if only == "" || only == t {
			if err := build(dir, version, t); err != nil {
				return fmt.Errorf("%s: %w", t, err)
			}
		}
	}
	return sums(dir)
}

func output(name string, args ...string) string {
	out, err := exec.Command(name, args...).Output()
	if err != nil {
		return "dev"
	}
	return string(out)
}

// build makes the zip of one system.
func build(dir, version, target string) error {
	system, arch, _ := strings.Cut(target, "/")
	name := "kollaris"
	if system == "windows" {
		name += ".exe"
	}
	tmp, err := os.MkdirTemp("", "kollaris-dist-")
	if err != nil {
		return err
	}
	defer os.RemoveAll(tmp)
	env := append(os.Environ(), "CGO_ENABLED=0", "GOOS="+system, "GOARCH="+arch, "GOFLAGS=-tags=release")
	cmd := exec.Command("go", "build", "-trimpath", "-ldflags", "-s -w -buildid= -X main.version="+version, "-o", filepath.Join(tmp, name), "./cmd/kollaris")
	cmd.Env, cmd.Stderr = env, os.Stderr
	if err := cmd.Run(); err != nil {
		return err
	}
	program, err := os.ReadFile(filepath.Join(tmp, name))
	if err != nil {
		return err
	}
	if len(program) > mostSize {
		return fmt.Errorf("the program is %.1f MB: at most %d", float64(len(program))/1e6, mostSize>>20)
	}
	start, err := os.ReadFile("docs/dist/how-to-start.html")
	if err != nil {
		return err
	}
	licences, err := licences(env)
	if err != nil {
		return err
	}
	if err := os.MkdirAll(dir, 0o755); err != nil {
		return err
	}
	var b bytes.Buffer
	z := zip.NewWriter(&b)
	for _, f := range []struct {
		name string
		mode os.FileMode
		data []byte
	}{{name, 0o755, program}, {"How to start it.html", 0o644, start}, {"Licences.txt", 0o644, licences}} {
		h := &zip.FileHeader{Name: f.name, Method: zip.Deflate, Modified: time.Date(2000, 1, 1, 0, 0, 0, 0, time.UTC)}
		h.SetMode(f.mode)
		w, err := z.CreateHeader(h)
		if err != nil {
			return err
		}
		if _, err := w.Write(f.data); err != nil {
			return err
		}
	}
	if err := z.Close(); err != nil {
		return err
	}
	file := fmt.Sprintf("kollaris-%s-%s-%s.zip", version, map[string]string{"darwin": "macos"}[system]+strings.TrimPrefix(system, "darwin"), arch)
	fmt.Printf("%s  program %.1f MB, zip %.1f MB\n", file, float64(len(program))/1e6, float64(b.Len())/1e6)
	return os.WriteFile(filepath.Join(dir, file), b.Bytes(), 0o644)
}

// licences gathers those of all that is in the program: its own, of each module that is linked in, of Go, and of what ships
// with the pages.
func licences(env []string) ([]byte, error) {
	var out bytes.Buffer
	add := func(of, file string) error {
		text, err := os.ReadFile(file)
		if err == nil {
			fmt.Fprintf(&out, "==== %s ====\n\n%s\n\n", of, bytes.TrimSpace(text))
		}
		return err
	}
	if err := add("Kollaris", "LICENSE"); err != nil {
		return nil, err
	}
	if err := add("Go", filepath.Join(strings.TrimSpace(output("go", "env", "GOROOT")), "LICENSE")); err != nil {
		return nil, err
	}
	cmd := exec.Command("go", "list", "-deps", "-json=Module", "./cmd/kollaris")
	cmd.Env = env
	list, err := cmd.Output()
	if err != nil {
		return nil, err
	}
	dirs := map[string]string{}
	for d := json.NewDecoder(bytes.NewReader(list)); ; {
		var p struct {
			Module *struct {
				Path, Version, Dir string
				Main               bool
			}
		}
		if err := d.Decode(&p); errors.Is(err, io.EOF) {
			break
		} else if err != nil {
			return nil, err
		}
		if m := p.Module; m != nil && !m.Main {
			dirs[m.Path+" "+m.Version] = m.Dir
		}
	}
	of := make([]string, 0, len(dirs))
	for m := range dirs {
		of = append(of, m)
	}
	slices.Sort(of)
	for _, m := range of {
		found := false
		for _, pattern := range []string{"LICEN[CS]E*", "COPYING*", "NOTICE*"} {
			files, err := filepath.Glob(filepath.Join(dirs[m], pattern))
			if err != nil {
				return nil, err
			}
			for _, f := range files {
				if err := add(m+", "+filepath.Base(f), f); err != nil {
					return nil, err
				}
				found = true
			}
		}
		if !found {
			return nil, fmt.Errorf("%s: no licence in %s", m, dirs[m])
		}
	}
	vendored, err := filepath.Glob("internal/web/static/vendor/licences/*")
	if err != nil {
		return nil, err
	}
	for _, f := range vendored {
		if err := add("with the pages, "+filepath.Base(f), f); err != nil {
			return nil, err
		}
	}
	return out.Bytes(), nil
}

// sums writes the checksums of all zips, as sha256sum reads them.
func sums(dir string) error {
	files, err := filepath.Glob(filepath.Join(dir, "kollaris-*.zip"))
	if err != nil {
		return err
	}
	var b strings.Builder
	for _, f := range files {
		data, err := os.ReadFile(f)
		if err != nil {
			return err
		}
		fmt.Fprintf(&b, "%x  %s\n", sha256.Sum256(data), filepath.Base(f))
	}
	return os.WriteFile(filepath.Join(dir, "SHA256SUMS"), []byte(b.String()), 0o644)
}
