// Command comments writes what the comments of the types that the API writes say of their fields, as JSON: the OpenAPI document's
// descriptions. It runs at the root of the repository; `make types` does.
package main

import (
	"encoding/json"
	"fmt"
	"go/ast"
	"go/parser"
	"go/token"
	"io/fs"
	"os"
	"path"
	"path/filepath"
	"reflect"
	"strings"
)

func main() {
	out, err := comments("server", "app", "exchange", "core", "store", "seal")
	if err == nil {
		e := json.NewEncoder(os.Stdout)
		e.SetIndent("", "  ")
		e.SetEscapeHTML(false)
		err = e.Encode(out)
	}
	if err != nil {
		fmt.Fprintln(os.Stderr, "comments:", err)
		os.Exit(1)
	}
}

// comments are those of the fields that have a name in JSON, by package, type and that name.
func comments(roots ...string) (map[string]string, error) {
	out := map[string]string{}
	for _, root := range roots {
		err := filepath.WalkDir(root, func(file string, d fs.DirEntry, err error) error {
			if err != nil || d.IsDir() || !strings.HasSuffix(file, ".go") || strings.HasSuffix(file, "_test.go") {
				return err
			}
			f, err := parser.ParseFile(token.NewFileSet(), file, nil, parser.ParseComments)
			if err != nil {
				return err
			}
			ast.Inspect(f, func(n ast.Node) bool {
				if t, ok := n.(*ast.TypeSpec); ok {
					if s, ok := t.Type.(*ast.StructType); ok {
						fields(out, path.Join("nexufix", filepath.ToSlash(filepath.Dir(file)))+"."+t.Name.Name, s)
					}
				}
				return true
			})
			return nil
		})
		if err != nil {
			return nil, err
		}
	}
	return out, nil
}

func fields(out map[string]string, of string, s *ast.StructType) {
	for _, f := range s.Fields.List {
		if f.Tag == nil {
			continue
		}
		name, _, _ := strings.Cut(reflect.StructTag(strings.Trim(f.Tag.Value, "`")).Get("json"), ",")
		text := f.Doc.Text()
		if text == "" {
			text = f.Comment.Text()
		}
		if text = strings.Join(strings.Fields(text), " "); name != "" && name != "-" && text != "" {
			out[of+"."+name] = text
		}
	}
}
