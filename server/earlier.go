package server

import (
	"crypto/sha256"
	"encoding/hex"
	"errors"
	"io/fs"
	"mime"
	"os"
	"path"
	"path/filepath"
	"slices"
	"strings"
)

// keepEarlier keeps the scripts and styles of this build in a folder, and serves those of the build before it too: a page that was open
// while the program was exchanged still finds the views that it has not loaded yet. Older builds are taken out. What goes wrong here
// keeps nobody from working: such a page loads itself again.
func (p *page) keepEarlier(dir string) error {
	if len(p.assets) == 0 {
		return nil
	}
	sum := sha256.Sum256([]byte(p.html))
	own := hex.EncodeToString(sum[:8])
	if _, err := os.Stat(filepath.Join(dir, own)); errors.Is(err, fs.ErrNotExist) {
		if err := p.write(dir, own); err != nil {
			return err
		}
	}
	builds, err := os.ReadDir(dir)
	if err != nil {
		return err
	}
	written := func(d fs.DirEntry) int64 {
		info, err := d.Info()
		if err != nil {
			return 0
		}
		return info.ModTime().UnixNano()
	}
	builds = slices.DeleteFunc(builds, func(d fs.DirEntry) bool {
		if strings.HasPrefix(d.Name(), begunName) { // by a program that was stopped meanwhile
			err = errors.Join(err, os.RemoveAll(filepath.Join(dir, d.Name())))
		}
		return d.Name() == own || !d.IsDir() || strings.HasPrefix(d.Name(), begunName)
	})
	slices.SortFunc(builds, func(a, b fs.DirEntry) int { return int(min(1, max(-1, written(b)-written(a)))) })
	for i, build := range builds {
		at := filepath.Join(dir, build.Name())
		if i > 0 {
			err = errors.Join(err, os.RemoveAll(at))
			continue
		}
		err = errors.Join(err, p.add(at))
	}
	return err
}

const begunName = "begun-"

// write puts what the page loads later into a folder of its own, whole or not at all.
func (p *page) write(dir, own string) error {
	if err := os.MkdirAll(dir, 0o700); err != nil {
		return err
	}
	begun, err := os.MkdirTemp(dir, begunName)
	if err != nil {
		return err
	}
	for name, a := range p.assets {
		if !strings.HasPrefix(name, "/assets/") || path.Ext(name) != ".js" && path.Ext(name) != ".css" {
			continue
		}
		if err := os.WriteFile(filepath.Join(begun, path.Base(name)), a.plain, 0o600); err != nil {
			return errors.Join(err, os.RemoveAll(begun))
		}
	}
	return os.Rename(begun, filepath.Join(dir, own))
}

// add serves the files of an earlier build, where this one has none of that name.
func (p *page) add(build string) error {
	files, err := os.ReadDir(build)
	if err != nil {
		return err
	}
	for _, f := range files {
		name := "/assets/" + f.Name()
		if _, is := p.assets[name]; is || !f.Type().IsRegular() {
			continue
		}
		raw, err := os.ReadFile(filepath.Join(build, f.Name()))
		if err != nil {
			return err
		}
		p.assets[name] = asset{plain: raw, kind: mime.TypeByExtension(path.Ext(name))}
	}
	return nil
}
