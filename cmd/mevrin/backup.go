package main

import (
	"errors"
	"fmt"
	"io"
	"os"
	"path/filepath"

	"github.com/spf13/cobra"

	"mevrin/store"
)

func backupCommand() *cobra.Command {
	var data string
	c := &cobra.Command{Use: "backup FILE", Short: "Copy all data into one file (- writes it out), also while Mevrin runs", Args: cobra.ExactArgs(1),
		RunE: func(c *cobra.Command, args []string) error {
			if named("") != "" {
				return errors.New("the tables lie in the database that MEVRIN_DATABASE names: copy that with its own tools (pg_dump), and the data folder beside it")
			}
			write, where, said := whole(args[0]), args[0], c.OutOrStdout()
			if args[0] == "-" {
				if info, err := os.Stdout.Stat(); err == nil && info.Mode()&os.ModeCharDevice != 0 && c.OutOrStdout() == os.Stdout {
					return errors.New("a backup is no text to read; lead it into a file: mevrin backup - > FILE")
				}
				write, where, said = func(fill func(io.Writer) error) error { return fill(c.OutOrStdout()) }, "what was written", c.ErrOrStderr()
			}
			var done store.Backed
			err := write(func(w io.Writer) (err error) {
				done, err = store.Backup(c.Context(), data, w)
				return err
			})
			if err != nil {
				return err
			}
			fmt.Fprintf(said, "maps %d · files %d in %s\n", done.Maps, done.Files, where)
			return told(c, done)
		}}
	c.Flags().StringVar(&data, "data", "mevrin-data", "folder that holds all data")
	return c
}

// whole writes a file that comes into being whole: what is broken off leaves none that looks like a backup.
func whole(file string) func(fill func(io.Writer) error) error {
	return func(fill func(io.Writer) error) error {
		draft, err := os.CreateTemp(filepath.Dir(file), ".mevrin-backup-*")
		if err != nil {
			return err
		}
		defer func() { _ = os.Remove(draft.Name()) }()
		if err = fill(draft); err == nil {
			err = draft.Sync()
		}
		if err = errors.Join(err, draft.Close()); err != nil {
			return err
		}
		return os.Rename(draft.Name(), file)
	}
}

func restoreCommand() *cobra.Command {
	var data string
	c := &cobra.Command{Use: "restore FILE", Short: "Make a data folder of a backup", Args: cobra.ExactArgs(1),
		RunE: func(c *cobra.Command, args []string) error {
			from, err := os.Open(args[0])
			if err != nil {
				return err
			}
			defer func() { _ = from.Close() }()
			info, err := from.Stat()
			if err != nil {
				return err
			}
			done, err := store.Restore(c.Context(), from, info.Size(), data)
			if err != nil {
				return err
			}
			fmt.Fprintf(c.OutOrStdout(), "maps %d · files %d in %s; they were checked\n", done.Maps, done.Files, data)
			return told(c, done)
		}}
	c.Flags().StringVar(&data, "data", "mevrin-data", "folder to make; it must not be there yet")
	return c
}

// told says which files are not there, and that something was found.
func told(c *cobra.Command, done store.Backed) error {
	if len(done.Missing) == 0 {
		return nil
	}
	fmt.Fprintf(c.ErrOrStderr(), "files missing, which the data folder had lost already: %d\n", len(done.Missing))
	for _, hash := range done.Missing {
		fmt.Fprintln(c.ErrOrStderr(), " ", hash)
	}
	return errFound
}
