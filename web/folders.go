package web

import (
	"errors"
	"net/http"
	"net/url"
	"strconv"
	"sync"

	"github.com/gin-gonic/gin"

	cm "mevrin/core/conceptmap"
	"mevrin/core/people"
	"mevrin/core/starters"
	"mevrin/store"
	"mevrin/workspace"
	"mevrin/workspace/query"
)

// sections are the parts of the library, by their addresses.
var sections = map[string]store.Section{"/": store.SectionOwn, "/shared": store.SectionShared, "/open": store.SectionOpen, "/templates": store.SectionTemplates}

// cameFrom gives the page of the library from which somebody asks for something, to lead them back there.
func cameFrom(g *gin.Context) (string, url.Values) {
	u, err := url.Parse(g.GetHeader("Referer"))
	if err != nil || hostOf(u.Host) != hostOf(g.Request.Host) {
		return "/", url.Values{}
	}
	if _, is := sections[u.Path]; !is {
		return "/", url.Values{}
	}
	keep := url.Values{}
	for _, name := range []string{"folder", "by"} {
		if v := u.Query().Get(name); v != "" {
			keep.Set(name, v)
		}
	}
	return u.Path, keep
}

// backTo leads back to the page of the library from which something was asked for, to be told what was done.
func (s *server) backTo(g *gin.Context, err error, told url.Values) {
	if err != nil {
		s.failWith(g, err)
		return
	}
	path, keep := cameFrom(g)
	for name, all := range told {
		keep[name] = all
	}
	if len(keep) > 0 {
		path += "?" + keep.Encode()
	}
	g.Redirect(http.StatusSeeOther, path)
}

// addFolder makes a folder in the one that is shown.
func (s *server) addFolder(g *gin.Context) {
	who, _ := asker(g)
	_, err := s.work.AddFolder(g.Request.Context(), who, g.PostForm("in"), g.PostForm("name"))
	s.backTo(g, err, nil)
}

// alterFolder gives a folder another name, or takes it away.
func (s *server) alterFolder(g *gin.Context) {
	who, _ := asker(g)
	id := g.Param("folder")
	if g.PostForm("do") == "remove" {
		err := s.work.RemoveFolder(g.Request.Context(), who, id)
		s.backTo(g, err, nil)
		return
	}
	s.backTo(g, s.work.RenameFolder(g.Request.Context(), who, id, g.PostForm("name")), nil)
}

// maxSeveral bounds how many maps something is done with at once.
const maxSeveral = 500

// several does something with several maps and folders: files them, or puts the maps into the bin.
func (s *server) several(g *gin.Context) {
	who, _ := asker(g)
	ctx := g.Request.Context()
	ids, folders := g.PostFormArray("map"), g.PostFormArray("fold")
	if len(ids)+len(folders) > maxSeveral {
		s.failWith(g, cm.Refusef("That is too much at once. Please take at most %d.", maxSeveral))
		return
	}
	var maps []cm.ID
	for _, id := range ids {
		maps = append(maps, cm.ID(id))
	}
	if g.PostForm("do") != "bin" {
		err := s.work.File(ctx, who, g.PostForm("into"), maps, folders)
		s.backTo(g, err, url.Values{"done": {"filed"}, "n": {strconv.Itoa(len(maps) + len(folders))}})
		return
	}
	for _, id := range maps {
		as, err := s.asAbout(g, id, CanOwn)
		if err == nil {
			err = s.work.Discard(ctx, as, id)
		}
		if err != nil {
			s.failWith(g, err)
			return
		}
	}
	s.backTo(g, nil, url.Values{"done": {"binned"}, "n": {strconv.Itoa(len(maps))}})
}

// folderSharing is the page that says with whom a folder is shared.
type folderSharing struct {
	store.Folder
	Shares []store.Share
	Rights []query.Choice
	Others []people.Person
	Mails  bool
	Fault  string
}

func (s *server) showFolderSharing(g *gin.Context, status int, fault string) {
	ctx := g.Request.Context()
	v := folderSharing{Fault: fault, Rights: rightChoices()}
	var errs [3]error
	v.Folder, errs[0] = s.reach(g).Folder(ctx, g.Param("folder"))
	v.Shares, errs[1] = s.reach(g).FolderShares(ctx, g.Param("folder"))
	all, err := s.Store.People(ctx)
	errs[2] = err
	if err := errors.Join(errs[:]...); err != nil {
		s.failWith(g, err)
		return
	}
	v.Mails = admitted(g).who.Account.Role.SeesMail()
	v.Others = othersThan(all, v.Owner, v.Shares)
	g.Header("Cache-Control", "no-store")
	s.html(g, status, "folder-sharing.html", v)
}

func (s *server) folderSharingPage(g *gin.Context) { s.showFolderSharing(g, http.StatusOK, "") }

func (s *server) postFolderSharing(g *gin.Context) {
	who, _ := asker(g)
	err := s.work.ShareFolder(g.Request.Context(), who, g.Param("folder"), g.PostForm("person"), people.Right(g.PostForm("right")))
	var refusal *cm.Refusal
	switch {
	case errors.As(err, &refusal):
		s.showFolderSharing(g, http.StatusUnprocessableEntity, refusal.In(say(g)))
	case err != nil:
		s.failWith(g, err)
	default:
		g.Redirect(http.StatusSeeOther, "/folders/"+g.Param("folder")+"/sharing")
	}
}

// rightChoices are the rights that somebody can be given.
func rightChoices() (all []query.Choice) {
	for _, r := range people.Rights {
		all = append(all, query.Choice{Value: string(r.ID), Name: r.Title})
	}
	return all
}

// othersThan gives those with whom something is not shared yet whose it is not either.
func othersThan(all []people.Person, owner string, shares []store.Share) (others []people.Person) {
	has := map[string]bool{owner: true}
	for _, one := range shares {
		has[one.Person.ID] = has[one.Person.ID] || one.Folder == ""
	}
	for _, p := range all {
		if !has[p.ID] {
			others = append(others, p)
		}
	}
	return others
}

// postTemplate makes a map of another with which further ones are begun.
func (s *server) postTemplate(g *gin.Context) {
	who, id := asker(g)
	twin, err := s.work.MakeTemplate(g.Request.Context(), who, id, g.PostForm("keep") == "shape")
	if err != nil {
		s.failWith(g, err)
		return
	}
	g.Redirect(http.StatusSeeOther, "/templates?"+url.Values{"done": {"template"}, "map": {string(twin)}}.Encode())
}

// beginWith makes a map like one that others are begun with.
func (s *server) beginWith(g *gin.Context) {
	who, id := asker(g)
	twin, err := s.work.BeginWith(g.Request.Context(), who, id)
	if err != nil {
		s.failWith(g, err)
		return
	}
	g.Redirect(http.StatusSeeOther, "/maps/"+string(twin))
}

// starterDrawings are the small drawings of the shipped maps to begin with, each made once.
var starterDrawings sync.Map

// starterDrawing is the small drawing of a shipped map to begin with.
func (s *server) starterDrawing(g *gin.Context) {
	id := g.Param("starter")
	drawing, known := starterDrawings.Load(id)
	if !known {
		made, err := workspace.StarterDrawing(id)
		if err != nil {
			s.failWith(g, err)
			return
		}
		drawing = made
		starterDrawings.Store(id, made)
	}
	g.Header("Cache-Control", "private, max-age=3600")
	g.Data(http.StatusOK, "image/svg+xml", []byte(drawing.(string)))
}

// questionsPage asks somebody who does not know how to begin.
func (s *server) questionsPage(g *gin.Context) {
	s.showQuestions(g, http.StatusOK, "", nil)
}

func (s *server) showQuestions(g *gin.Context, status int, fault string, answers []string) {
	type asked struct{ Ask, Answer string }
	var all []asked
	for i, q := range starters.Questions {
		one := asked{Ask: q.Ask}
		if i < len(answers) {
			one.Answer = answers[i]
		}
		all = append(all, one)
	}
	s.html(g, status, "questions.html", gin.H{"Questions": all, "Fault": fault})
}

func (s *server) answered(g *gin.Context) {
	who, _ := asker(g)
	answers := g.PostFormArray("answer")
	id, err := s.work.Begin(g.Request.Context(), who, workspace.BeginForm{Begin: "questions", Answers: answers})
	var refusal *cm.Refusal
	switch {
	case errors.As(err, &refusal):
		s.showQuestions(g, http.StatusUnprocessableEntity, refusal.In(say(g)), answers)
	case err != nil:
		s.failWith(g, err)
	default:
		g.Redirect(http.StatusSeeOther, "/maps/"+string(id))
	}
}

// postOpen opens a map to all, or closes it; it asks once before it opens it.
func (s *server) postOpen(g *gin.Context) {
	who, id := asker(g)
	right := people.Right(g.PostForm("right"))
	err := s.work.SetOpen(g.Request.Context(), who, id, right)
	if err == nil {
		done := "opened"
		if right == people.RightNone {
			done = "closed"
		}
		g.Redirect(http.StatusSeeOther, "/maps/"+string(id)+"/sharing?done="+done)
		return
	}
	s.backToSharing(g, err)
}

// pick puts a map that is open to all before the others, or among them again.
func (s *server) pick(g *gin.Context) {
	id, first := cm.ID(g.PostForm("map")), g.PostForm("first") == "yes"
	if err := s.Store.SetPicked(g.Request.Context(), id, first); err != nil {
		s.failWith(g, err)
		return
	}
	done := map[bool]string{true: "first", false: "not-first"}[first]
	g.Redirect(http.StatusSeeOther, "/open?done="+done+"&map="+url.QueryEscape(string(id)))
}

// lookLink gives the address of a link by which somebody may look at a map and no more.
func (s *server) lookLink(g *gin.Context) {
	who, id := asker(g)
	token, err := s.work.LookLink(g.Request.Context(), who, id)
	if err != nil {
		s.failWith(g, err)
		return
	}
	g.JSON(http.StatusOK, gin.H{"address": originOf(g) + "/link/" + token, "said": say(g).Sprintf("The link is copied. Whoever has it may look at the map, and no more.")})
}

// nameOfSection is how a part of the library is called; each is a key of the catalogue.
func nameOfSection(path string) string {
	return map[string]string{"/": "Your maps", "/shared": "Shared with you", "/open": "Open to all", "/templates": "To begin with"}[path]
}
