// Package bucket is a small stand-in for an object store that is spoken to as S3 is: its objects are in memory, and are gone when it ends.
package bucket

import (
	"net"
	"net/http"
	"time"

	"github.com/johannesboyne/gofakes3"
	"github.com/johannesboyne/gofakes3/backend/s3mem"
)

// Name is the one bucket that it has.
const Name = "nexufix"

// Serve answers on a listener of this computer until it is closed. Whoever reaches it may read and write.
func Serve(l net.Listener) error {
	objects := s3mem.New()
	if err := objects.CreateBucket(Name); err != nil {
		return err
	}
	srv := &http.Server{Handler: gofakes3.New(objects).Server(), ReadHeaderTimeout: 10 * time.Second}
	return srv.Serve(l)
}
