package main

import (
	"errors"
	"fmt"
	"text/tabwriter"

	"github.com/spf13/cobra"

	"mevrin/core/message"
	"mevrin/core/people"
	"mevrin/store"
	"mevrin/workspace"
)

// usersCommand is for the owner without a browser: it works on the data folder, also while Mevrin runs.
func usersCommand() *cobra.Command {
	root := &cobra.Command{Use: "users", Short: "Look after people's accounts without a browser"}
	var data, database, address string
	root.PersistentFlags().StringVar(&data, "data", "mevrin-data", "folder that holds all data")
	databaseFlag(root.PersistentFlags(), &database)
	root.PersistentFlags().StringVar(&address, "at", "http://127.0.0.1:8240", "address at which people reach Mevrin, for the links that are printed")
	with := func(do func(c *cobra.Command, s *store.Store, a *workspace.Accounts, args []string) error) func(*cobra.Command, []string) error {
		return func(c *cobra.Command, args []string) error {
			s, err := store.OpenWith(data, store.Options{Beside: true, Database: named(database)})
			if err != nil {
				return err
			}
			return errors.Join(do(c, s, workspace.NewAccounts(s), args), s.Close())
		}
	}
	// by is who did it, as the record has it.
	by := people.Person{ID: "command line", Name: "The owner"}
	var role string
	invite := &cobra.Command{Use: "invite MAIL", Short: "Print a link by which somebody makes an account", Args: cobra.ExactArgs(1), RunE: with(func(c *cobra.Command, s *store.Store, a *workspace.Accounts, args []string) error {
		link, err := a.Invite(c.Context(), by, args[0], people.Role(role), address, message.English())
		if err == nil {
			fmt.Fprintln(c.OutOrStdout(), link)
		}
		return err
	})}
	invite.Flags().StringVar(&role, "role", string(people.RoleAuthor), "as what: owner, author or learner")
	var heir string
	remove := &cobra.Command{Use: "remove MAIL", Short: "Take an account away; the maps go to somebody else", Args: cobra.ExactArgs(1), RunE: with(func(c *cobra.Command, s *store.Store, a *workspace.Accounts, args []string) error {
		p, err := personOf(c, s, args[0])
		if err != nil {
			return err
		}
		to, err := personOf(c, s, heir)
		if err != nil {
			return fmt.Errorf("--to says who takes over the maps: %w", err)
		}
		to.Name = by.Name
		return a.Remove(c.Context(), to, p.ID)
	})}
	remove.Flags().StringVar(&heir, "to", "", "mail address of whoever takes over the maps")
	root.AddCommand(invite, remove,
		&cobra.Command{Use: "list", Short: "List all who have accounts", Args: cobra.NoArgs, RunE: with(func(c *cobra.Command, s *store.Store, _ *workspace.Accounts, _ []string) error {
			all, err := s.People(c.Context())
			w := tabwriter.NewWriter(c.OutOrStdout(), 0, 4, 2, ' ', 0)
			for _, p := range all {
				fmt.Fprintf(w, "%s\t%s\t%s\n", p.Mail, p.Name, p.Role)
			}
			return errors.Join(err, w.Flush())
		})},
		&cobra.Command{Use: "role MAIL ROLE", Short: "Make somebody an owner, an author or a learner", Args: cobra.ExactArgs(2), RunE: with(func(c *cobra.Command, s *store.Store, a *workspace.Accounts, args []string) error {
			p, err := personOf(c, s, args[0])
			if err != nil {
				return err
			}
			p.Role = people.Role(args[1])
			return a.Alter(c.Context(), by, p)
		})},
		&cobra.Command{Use: "password MAIL", Short: "Print a link by which somebody chooses a new password within an hour", Args: cobra.ExactArgs(1), RunE: with(func(c *cobra.Command, s *store.Store, a *workspace.Accounts, args []string) error {
			p, err := personOf(c, s, args[0])
			if err != nil {
				return err
			}
			link, err := a.PasswordLink(c.Context(), by, p, address)
			if err == nil {
				fmt.Fprintln(c.OutOrStdout(), link)
			}
			return err
		})},
		&cobra.Command{Use: "sign-out MAIL", Short: "Sign somebody out everywhere", Args: cobra.ExactArgs(1), RunE: with(func(c *cobra.Command, s *store.Store, _ *workspace.Accounts, args []string) error {
			p, err := personOf(c, s, args[0])
			if err != nil {
				return err
			}
			return s.SignOut(c.Context(), p.ID, "")
		})})
	return root
}

func personOf(c *cobra.Command, s *store.Store, mail string) (people.Person, error) {
	mail, err := people.CleanMail(mail)
	if err != nil {
		return people.Person{}, err
	}
	p, _, err := s.PersonOf(c.Context(), mail)
	if errors.Is(err, store.ErrNoPerson) {
		return p, fmt.Errorf("nobody has an account of the address %s", mail)
	}
	return p, err
}
