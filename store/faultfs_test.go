package store

import (
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"math/rand/v2"
	"os"
	"os/exec"
	"path/filepath"
	"strings"
	"sync"
	"syscall"
	"testing"

	"github.com/hanwen/go-fuse/v2/fs"
	"github.com/hanwen/go-fuse/v2/fuse"
)

// fault is what happens at a call of a file system.
type fault int

const (
	failsOnce fault = iota // the call fails (EIO)
	diskFull               // it and some after it fail (ENOSPC)
	torn                   // a half is written, then it fails
	syncFails              // the next sync fails
	powerCut               // nothing works any more, and what was not synced is there in parts, in any order
	diskGone               // nothing is written any more
	faults
)

// faulty is a folder of which the calls that write and sync can be made to fail. What is written and not synced is remembered, so that a
// power cut can lose it.
type faulty struct {
	*fs.LoopbackNode
	on *faultyDisk
}

type faultyDisk struct {
	mu     sync.Mutex
	folder string // beneath which faults happen; "": none do
	at     int    // the call at which it happens; they are counted down
	kind   fault
	left   int // calls that still fail
	dead   bool
	gone   bool
	calls  int
	open   map[string]*unsynced // by path on the disk beneath
	random *rand.Rand
}

// unsynced is a file as it was last synced, and what was done to it since.
type unsynced struct {
	synced []byte
	ops    []op
}

type op struct {
	at   int64
	data []byte // nil: it was cut to at
}

// WrapChild makes what is found in the folder faulty, too.
func (f *faulty) WrapChild(_ context.Context, child fs.InodeEmbedder) fs.InodeEmbedder {
	return &faulty{child.(*fs.LoopbackNode), f.on}
}

// path is where the node is on the disk beneath.
func (f *faulty) path() string { return filepath.Join(f.RootData.Path, f.Path(f.Root())) }

func (f *faulty) Open(ctx context.Context, flags uint32) (fs.FileHandle, uint32, syscall.Errno) {
	h, kernel, errno := f.LoopbackNode.Open(ctx, flags)
	if errno == 0 {
		h = &faultyFile{h.(*fs.LoopbackFile), f.path(), f.on}
	}
	return h, kernel, errno
}

func (f *faulty) Create(ctx context.Context, name string, flags, mode uint32, out *fuse.EntryOut) (*fs.Inode, fs.FileHandle, uint32,
	syscall.Errno) {
	path := filepath.Join(f.path(), name)
	if errno := f.on.call(path, nil); errno != 0 {
		return nil, nil, 0, errno
	}
	inode, h, kernel, errno := f.LoopbackNode.Create(ctx, name, flags, mode, out)
	if errno == 0 {
		h = &faultyFile{h.(*fs.LoopbackFile), path, f.on}
	}
	return inode, h, kernel, errno
}

func (f *faulty) Setattr(ctx context.Context, h fs.FileHandle, in *fuse.SetAttrIn, out *fuse.AttrOut) syscall.Errno {
	if size, ok := in.GetSize(); ok {
		if errno := f.on.call(f.path(), &op{at: int64(size)}); errno != 0 {
			return errno
		}
	}
	return f.LoopbackNode.Setattr(ctx, h, in, out)
}

// faultyFile is an open file.
type faultyFile struct {
	*fs.LoopbackFile
	path string
	on   *faultyDisk
}

// PassthroughFd keeps the kernel from going round it.
func (f *faultyFile) PassthroughFd() (int, bool) { return 0, false }

func (f *faultyFile) Write(ctx context.Context, data []byte, at int64) (uint32, syscall.Errno) {
	switch errno := f.on.call(f.path, &op{at, append([]byte(nil), data...)}); errno {
	case 0:
		return f.LoopbackFile.Write(ctx, data, at)
	case halfWritten:
		_, _ = f.LoopbackFile.Write(ctx, data[:len(data)/2], at)
		return 0, syscall.ENOSPC
	default:
		return 0, errno
	}
}

func (f *faultyFile) Fsync(ctx context.Context, flags uint32) syscall.Errno {
	if errno := f.on.sync(f.path); errno != 0 {
		return errno
	}
	return f.LoopbackFile.Fsync(ctx, flags)
}

// halfWritten stands for a write of which a half is done. No call returns it.
const halfWritten = syscall.Errno(0xffff)

// concerns reports whether faults happen to a file. The shared memory of the log is no part of what is kept.
func (d *faultyDisk) concerns(path string) bool {
	return d.folder != "" && strings.HasPrefix(path, d.folder) && !strings.HasSuffix(path, "-shm")
}

// call counts a call that writes, and says how it fails; it remembers what is written.
func (d *faultyDisk) call(path string, o *op) syscall.Errno {
	d.mu.Lock()
	defer d.mu.Unlock()
	if !d.concerns(path) {
		return 0
	}
	errno := d.fails(false)
	if o == nil || errno != 0 && errno != halfWritten {
		return errno
	}
	u := d.open[path]
	if u == nil {
		raw, err := os.ReadFile(path)
		if err != nil {
			return syscall.EIO
		}
		u = &unsynced{synced: raw}
		d.open[path] = u
	}
	if errno == halfWritten {
		o.data = o.data[:len(o.data)/2]
	}
	u.ops = append(u.ops, *o)
	return errno
}

// fails says how the call that comes now fails.
func (d *faultyDisk) fails(syncs bool) syscall.Errno {
	if d.dead || d.gone {
		return syscall.EIO
	}
	d.calls++
	if d.at--; d.at == 0 {
		switch d.kind {
		case powerCut:
			d.dead = true
		case diskGone:
			d.gone = true
		case diskFull:
			d.left = 8
		default:
			d.left = 1
		}
	}
	switch {
	case d.dead, d.gone:
		return syscall.EIO
	case d.left == 0 || d.kind == syncFails && !syncs:
		return 0
	}
	d.left--
	switch d.kind {
	case diskFull:
		return syscall.ENOSPC
	case torn:
		if !syncs {
			return halfWritten
		}
	}
	return syscall.EIO
}

// sync is a sync: what was written before stays from then on.
func (d *faultyDisk) sync(path string) syscall.Errno {
	d.mu.Lock()
	defer d.mu.Unlock()
	if !d.concerns(path) {
		return 0
	}
	if errno := d.fails(true); errno != 0 {
		return errno
	}
	delete(d.open, path)
	return 0
}

// cut ends a folder's life: nothing is written any more, and what was not synced stays in parts that are drawn by lot.
func (d *faultyDisk) cut() (all error) {
	d.mu.Lock()
	defer d.mu.Unlock()
	d.dead = true
	for path, u := range d.open {
		content := append([]byte(nil), u.synced...)
		for _, o := range u.ops {
			if d.random.IntN(2) == 0 {
				continue
			}
			if o.data == nil {
				content = content[:min(int64(len(content)), o.at)]
				continue
			}
			if end := o.at + int64(len(o.data)); end > int64(len(content)) {
				content = append(content, make([]byte, end-int64(len(content)))...)
			}
			copy(content[o.at:], o.data)
		}
		if err := os.WriteFile(path, content, 0o600); err != nil && !os.IsNotExist(err) {
			all = errors.Join(all, err)
		}
	}
	return all
}

// begin is the next folder's, with a fault at a call of its own.
func (d *faultyDisk) begin(folder string, at int, kind fault) {
	d.mu.Lock()
	defer d.mu.Unlock()
	d.folder, d.at, d.kind, d.left, d.dead, d.gone, d.calls, d.open = folder, at, kind, 0, false, false, 0, map[string]*unsynced{}
}

// The folder is served by a process of its own: the store maps a file of it into memory, and the runtime of one process cannot both wait
// for a page of it and answer for it.
const faultyEnv = "NEXUFIX_FAULTY_DISK"

func init() {
	if beneath, mounted, is := strings.Cut(os.Getenv(faultyEnv), "\n"); is {
		if err := serveFaulty(beneath, mounted); err != nil {
			fmt.Fprintln(os.Stderr, err)
			os.Exit(1)
		}
		os.Exit(0)
	}
}

// order is what the process that serves is told, a line of JSON each; it answers with a [standing].
type order struct {
	Do     string // begin, cut, look
	Folder string
	At     int
	Kind   fault
}

type standing struct {
	Happened, Ended bool
	Wrong           string
}

func serveFaulty(beneath, mounted string) error {
	disk := &faultyDisk{open: map[string]*unsynced{}, random: rand.New(rand.NewPCG(28, 1))}
	data := &fs.LoopbackRoot{Path: beneath}
	root := &faulty{&fs.LoopbackNode{RootData: data}, disk}
	data.RootNode = root
	options := &fs.Options{MountOptions: fuse.MountOptions{DirectMount: true, EnableLocks: true}}
	if _, err := fs.Mount(mounted, root, options); err != nil {
		return err
	}
	defer func() { _ = syscall.Unmount(mounted, syscall.MNT_DETACH) }()
	in, out := json.NewDecoder(os.Stdin), json.NewEncoder(os.Stdout)
	if err := out.Encode(standing{}); err != nil {
		return err
	}
	for {
		var o order
		if in.Decode(&o) != nil {
			return nil // whoever asked has gone
		}
		var said standing
		switch o.Do {
		case "begin":
			disk.begin(o.Folder, o.At, o.Kind)
		case "cut":
			if err := disk.cut(); err != nil {
				said.Wrong = err.Error()
			}
		}
		disk.mu.Lock()
		said.Happened, said.Ended = disk.at <= 0, disk.dead || disk.gone
		disk.mu.Unlock()
		if err := out.Encode(said); err != nil {
			return err
		}
	}
}

// servedDisk is such a disk in its process.
type servedDisk struct {
	t   *testing.T
	out *json.Encoder
	in  *json.Decoder
}

func (d *servedDisk) tell(o order) (said standing) {
	d.t.Helper()
	if err := errors.Join(d.out.Encode(o), d.in.Decode(&said)); err != nil || said.Wrong != "" {
		d.t.Fatal(err, said.Wrong)
	}
	return said
}

// mountFaulty mounts such a folder. A machine without FUSE cannot: there make test leaves the test out, and says so.
func mountFaulty(t *testing.T) (disk *servedDisk, beneath, mounted string) {
	t.Helper()
	if _, err := os.Stat("/dev/fuse"); err != nil {
		t.Fatal("this machine has no FUSE (go test -skip FaultyDisk leaves the test out): ", err)
	}
	beneath, mounted = t.TempDir(), t.TempDir()
	c := exec.Command(os.Args[0])
	c.Env = append(os.Environ(), faultyEnv+"="+beneath+"\n"+mounted)
	in, err := c.StdinPipe()
	if err != nil {
		t.Fatal(err)
	}
	out, err := c.StdoutPipe()
	if err != nil {
		t.Fatal(err)
	}
	if err := c.Start(); err != nil {
		t.Fatal(err)
	}
	t.Cleanup(func() { in.Close(); _ = c.Wait() })
	disk = &servedDisk{t, json.NewEncoder(in), json.NewDecoder(out)}
	if err := disk.in.Decode(new(standing)); err != nil {
		t.Fatal("the faulty file system is not mounted; as anybody but root it takes the Debian package fuse3: ", err)
	}
	return disk, beneath, mounted
}
