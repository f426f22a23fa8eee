package web

import (
	"fmt"
	"io/fs"
	"net/http"

	"github.com/gin-gonic/gin"

	"mevrin/draw/display"
	"mevrin/draw/face"
)

// route is an address with what one must be able to do to ask for it.
type route struct {
	method, path string
	needs        Capability
	do           []gin.HandlerFunc
}

// routes lists all addresses of maps and of the library.
func (s *server) routes() []route {
	spool := spool(s.Store.Scratch, s.Log)
	at := func(method, path string, needs Capability, do ...gin.HandlerFunc) route {
		return route{method, path, needs, do}
	}
	return []route{
		// The library, and maps as a whole.
		at("GET", "/", CanKeep, spool, s.library),
		at("GET", "/shared", CanKeep, spool, s.library),
		at("GET", "/open", CanOpen, spool, s.openToAll, s.library),
		at("GET", "/templates", CanKeep, spool, s.library),
		at("GET", "/starters/:starter/small.svg", CanKeep, s.starterDrawing),
		at("GET", "/questions", CanKeep, s.questionsPage),
		at("POST", "/questions", CanKeep, s.formed, s.answered),
		at("POST", "/folders", CanKeep, s.formed, s.addFolder),
		at("POST", "/folders/:folder", CanKeep, s.formed, s.alterFolder),
		at("GET", "/folders/:folder/sharing", CanKeep, s.withAccounts, s.folderSharingPage),
		at("POST", "/folders/:folder/sharing", CanKeep, s.withAccounts, s.formed, s.postFolderSharing),
		at("POST", "/several", CanKeep, s.formed, s.several),
		at("GET", "/bin", CanKeep, s.bin),
		at("GET", "/files/:file/small", CanKeep, s.ownSmallFile),
		at("GET", "/help", CanOpen, s.help),
		at("GET", "/help/:page", CanOpen, s.help),
		at("GET", "/help-pictures/:name", CanOpen, s.helpPicture),
		at("POST", "/maps", CanKeep, s.formed, s.makeMap),
		at("POST", "/upload", CanKeep, s.upload),
		at("GET", "/import", CanKeep, s.importPage),
		at("POST", "/import", CanKeep, s.formed, s.takeImports),
		at("GET", "/maps/:map", CanLook, spool, s.mapPage),
		at("POST", "/maps/:map/name", CanEdit, s.formed, s.renameMap),
		at("POST", "/maps/:map/copy", CanCopy, s.copyMap),
		at("POST", "/maps/:map/template", CanCopy, s.formed, s.postTemplate),
		at("POST", "/maps/:map/begin", CanCopy, s.beginWith),
		at("POST", "/maps/:map/discard", CanOwn, s.discardMap),
		at("POST", "/maps/:map/restore", CanOwn, s.restoreMap),
		at("POST", "/maps/:map/destroy", CanOwn, s.destroyMap),
		at("GET", "/maps/:map/small.svg", CanLook, spool, s.small),
		at("GET", "/maps/:map/document", CanExport, spool, s.recorded, s.document),
		at("GET", "/maps/:map/part", CanExport, s.part),
		at("GET", "/maps/:map/drawing", CanExport, spool, s.recorded, s.drawing),
		at("GET", "/maps/:map/walk/:route", CanLook, spool, s.lookAtWalk),
		at("GET", "/maps/:map/walk/:route/drawn", CanLook, s.lookDrawn),

		// Who may do what with a map.
		at("GET", "/maps/:map/sharing", CanShare, s.sharingPage),
		at("POST", "/maps/:map/sharing", CanShare, s.withAccounts, s.formed, s.postSharing),
		at("POST", "/maps/:map/open", CanShare, s.withAccounts, s.formed, s.postOpen),
		at("POST", "/maps/:map/look-link", CanShare, s.withAccounts, s.lookLink),
		at("POST", "/maps/:map/sharing/links", CanShare, s.formed, s.makeLink),
		at("GET", "/maps/:map/sharing/:grant/code", CanShare, s.linkCode),
		at("POST", "/maps/:map/sharing/:grant/limits", CanShare, s.formed, s.limitLink),
		at("POST", "/maps/:map/sharing/:grant/close", CanShare, s.closeLink),

		at("GET", "/link/:token", CanComeIn, s.comeIn),
		at("POST", "/link/:token/unlock", CanOpen, s.formed, s.unlock),
		at("GET", "/maps/:map/judging", CanJudge, spool, s.judgePage),
		at("GET", "/maps/:map/judging/round", CanJudge, s.getRound),
		at("GET", "/maps/:map/judging/round/one", CanJudge, s.getRoundOne),
		at("POST", "/maps/:map/judging/judgements", CanJudge, s.postJudgement),
		at("GET", "/maps/:map/judging/look.css", CanJudge, s.lookSheet),
		at("GET", "/maps/:map/judging/files/:file", CanJudge, s.file),
		at("GET", "/maps/:map/judging/files/:file/small", CanJudge, s.smallFile),

		at("GET", "/health", CanOpen, s.health),
		at("GET", "/metrics", CanManage, s.metrics),
		at("POST", "/try", CanOpen, s.withAccounts, s.tryOut),
		at("GET", "/maps/:map/keep", CanEdit, s.withAccounts, s.keepTrial),

		// People, where several share this Mevrin.
		at("GET", "/sign-in", CanOpen, s.withAccounts, s.signInPage),
		at("POST", "/sign-in", CanOpen, s.withAccounts, s.formed, s.signIn),
		at("GET", "/identity", CanOpen, s.withAccounts, s.withSchool, s.toSchool),
		at("GET", "/identity/back", CanOpen, s.withAccounts, s.withSchool, s.fromSchool),
		at("GET", "/first/:ticket", CanOpen, s.withAccounts, s.firstPage),
		at("POST", "/first/:ticket", CanOpen, s.withAccounts, s.formed, s.first),
		at("GET", "/join/:ticket", CanOpen, s.withAccounts, s.joinPage),
		at("POST", "/join/:ticket", CanOpen, s.withAccounts, s.formed, s.join),
		at("GET", "/forgot", CanOpen, s.withAccounts, s.forgotPage),
		at("POST", "/forgot", CanOpen, s.withAccounts, s.formed, s.forgot),
		at("GET", "/password/:ticket", CanOpen, s.withAccounts, s.renewPage),
		at("POST", "/password/:ticket", CanOpen, s.withAccounts, s.formed, s.renew),
		at("POST", "/sign-out", CanBe, s.withAccounts, s.signOut),
		at("GET", "/account", CanBe, s.withAccounts, s.accountPage),
		at("POST", "/account", CanBe, s.withAccounts, s.formed, s.postAccount),
		at("GET", "/account/all", CanBe, s.withAccounts, s.takeOut),
		at("GET", "/account/leave", CanBe, s.withAccounts, s.leavePage),
		at("POST", "/account/leave", CanBe, s.withAccounts, s.formed, s.leave),
		at("GET", "/people", CanManage, s.withAccounts, s.peoplePage),
		at("POST", "/people", CanManage, s.withAccounts, s.formed, s.postPeople),
		at("POST", "/open", CanManage, s.withAccounts, s.formed, s.pick),

		// What people would alter on a map.
		at("GET", "/maps/:map/suggestions", CanComment, spool, s.suggestionsPage),
		at("POST", "/maps/:map/suggestions", CanComment, s.formed, s.suggest),
		at("POST", "/maps/:map/sheet", CanComment, s.beginSheet),
		at("GET", "/maps/:map/suggest", CanEdit, spool, s.sheet),
		at("POST", "/maps/:map/suggest", CanEdit, s.formed, s.postSheet),
		at("POST", "/maps/:map/suggestions/:suggestion/take", CanEdit, s.takeSuggestion),
		at("POST", "/maps/:map/suggestions/:suggestion/refuse", CanComment, s.refuseSuggestion),
		at("POST", "/maps/:map/suggestions/:suggestion/answers", CanComment, s.formed, s.answerSuggestion),

		// The states in which a map was.
		at("GET", "/maps/:map/versions", CanEdit, spool, s.versionsPage),
		at("GET", "/maps/:map/versions/drawing", CanEdit, spool, s.versionDrawing),
		at("GET", "/maps/:map/versions/growth", CanEdit, spool, s.growthPart),
		at("GET", "/maps/:map/versions/growth.csv", CanEdit, spool, s.recordedAlways, s.growthFile),
		at("POST", "/maps/:map/versions", CanEdit, s.formed, s.postVersion),
		at("GET", "/maps/:map/log", CanShare, s.recordedAlways, s.logFile),

		// A map being worked on.
		at("GET", "/maps/:map/key", CanComment, s.key),
		at("GET", "/maps/:map/aloud", CanComment, s.aloud),
		at("GET", "/maps/:map/talk", CanComment, s.talk),
		at("GET", "/maps/:map/mentionable", CanComment, s.withAccounts, s.mentionable),
		at("GET", "/maps/:map/round", CanComment, s.getRound),
		at("GET", "/maps/:map/round/one", CanComment, s.getRoundOne),
		at("GET", "/maps/:map/raters", CanEdit, s.getRaters),
		at("GET", "/maps/:map/ratings", CanEdit, s.recordedAlways, s.getRatings),
		at("GET", "/maps/:map/understood", CanComment, s.getUnderstood),
		at("POST", "/maps/:map/understood", CanComment, s.formed, s.postUnderstood),
		at("GET", "/maps/:map/understood/list", CanComment, s.unclearList),
		at("GET", "/maps/:map/score", CanEdit, s.getScore),
		at("GET", "/maps/:map/score/rubric", CanExport, s.rubricFile),
		at("POST", "/maps/:map/score/weight", CanEdit, s.formed, s.postWeight),
		at("POST", "/maps/:map/score/read", CanEdit, s.readRubric),
		at("POST", "/maps/:map/score/keep", CanKeep, s.formed, s.keepRubric),
		at("POST", "/maps/:map/score/drop", CanKeep, s.formed, s.dropRubric),
		at("GET", "/maps/:map/proposals", CanEdit, s.getProposals),
		at("GET", "/maps/:map/import", CanEdit, s.bringPage),
		at("POST", "/maps/:map/import", CanEdit, s.bring),
		at("GET", "/maps/:map/export", CanExport, s.exportPage),
		at("GET", "/maps/:map/export/file", CanExport, s.recorded, s.exportFile),
		at("GET", "/maps/:map/routes/:route/line", CanComment, s.routeLine),
		at("GET", "/maps/:map/routes/:route/changes", CanEdit, s.routeChanges),
		at("GET", "/maps/:map/chain", CanComment, s.getChain),
		at("GET", "/maps/:map/brief", CanComment, s.getBrief),
		at("GET", "/maps/:map/brief/file", CanExport, s.briefFile),
		at("GET", "/maps/:map/brief/line", CanEdit, s.getBriefLine),
		at("POST", "/maps/:map/brief/line", CanEdit, s.formed, s.postBriefLine),
		at("POST", "/maps/:map/brief/read", CanEdit, s.readBrief),
		at("GET", "/maps/:map/briefs", CanEdit, s.getBriefs),
		at("POST", "/maps/:map/briefs", CanKeep, s.formed, s.keepBrief),
		at("POST", "/maps/:map/briefs/drop", CanKeep, s.formed, s.dropBrief),
		at("GET", "/maps/:map/note", CanComment, s.noteCard),
		at("GET", "/maps/:map/cards", CanComment, s.cards),
		at("GET", "/maps/:map/offers", CanComment, s.offers),
		at("GET", "/maps/:map/places", CanComment, s.places),
		at("POST", "/phrases", CanKeep, s.formed, s.setPhrase),
		at("POST", "/rules", CanKeep, s.formed, s.postRules),
		at("POST", "/maps/:map/pasted", CanEdit, s.formed, s.pasted),
		at("GET", "/maps/:map/find", CanComment, s.find),
		at("POST", "/maps/:map/replaced", CanEdit, s.formed, s.replaced),
		at("GET", "/maps/:map/split", CanEdit, s.split),
		at("GET", "/maps/:map/order", CanEdit, s.order),
		at("GET", "/maps/:map/margin", CanEdit, spool, s.margin),
		at("GET", "/maps/:map/margin/:part", CanEdit, spool, s.margin),
		at("GET", "/maps/:map/column", CanComment, spool, s.column),
		at("GET", "/maps/:map/lens", CanComment, spool, s.getLens),
		at("GET", "/maps/:map/who", CanEdit, spool, s.getWho),
		at("POST", "/maps/:map/entries", CanComment, spool, s.postEntry),
		at("POST", "/maps/:map/tried", CanEdit, spool, s.postTried),
		at("GET", "/maps/:map/changes", CanComment, spool, s.changesSince),
		at("POST", "/maps/:map/view", CanComment, spool, s.postView),
		at("POST", "/maps/:map/chosen", CanComment, s.postChosen),
		at("GET", "/maps/:map/live", CanComment, s.live),

		// What is attached to maps, and how they look.
		at("GET", "/maps/:map/files", CanEdit, s.files),
		at("POST", "/maps/:map/files", CanEdit, s.postFile),
		at("POST", "/maps/:map/files/:file/use", CanEdit, s.useFile),
		at("GET", "/maps/:map/files/:file", CanLook, s.file),
		at("GET", "/maps/:map/files/:file/small", CanLook, s.smallFile),
		at("GET", "/maps/:map/sets/:set", CanComment, s.set),
		at("GET", "/icons", CanOpen, s.icons),
		at("GET", "/maps/:map/look.css", CanLook, s.lookSheet),
		at("POST", "/maps/:map/looks", CanEdit, s.formed, s.postLook),
		at("POST", "/maps/:map/looks/drop", CanEdit, s.formed, s.dropLook),
		at("GET", "/maps/:map/ideas", CanEdit, s.ideas),
		at("GET", "/maps/:map/preview", CanEdit, s.preview),
		at("POST", "/maps/:map/cited", CanEdit, s.formed, s.cited),
		at("POST", "/maps/:map/passage", CanEdit, s.formed, s.passage),
		at("GET", "/maps/:map/citations/:form", CanExport, s.citations),
		at("GET", "/maps/:map/shelf", CanEdit, s.shelf),
		at("POST", "/maps/:map/shelf/:item", CanEdit, s.takeFromShelf),
		at("GET", "/shelf/:item", CanOpen, s.shelfItem),

		// Links to a map.
		at("POST", "/maps/:map/grants", CanShare, s.formed, s.postGrant),
		at("POST", "/maps/:map/grants/:grant/close", CanShare, s.formed, s.closeGrant),
		at("POST", "/maps/:map/hand-links", CanShare, s.postHandLink),
		at("POST", "/maps/:map/judge-links", CanShare, s.postJudgeLink),
		at("POST", "/maps/:map/visitors/:visitor/take-back", CanShare, s.takeBack),

		// Leading a room: the guide desk, and the room screen for whoever has its code.
		at("GET", "/maps/:map/present", CanGuide, s.present),
		at("GET", "/maps/:map/desk", CanGuide, s.desk),
		at("GET", "/maps/:map/desk/live", CanGuide, s.liveDesk),
		at("POST", "/maps/:map/desk/deeds", CanGuide, s.postDeed),
		at("POST", "/maps/:map/desk/spot", CanGuide, s.postSpot),
		at("POST", "/maps/:map/desk/end", CanGuide, s.endLeading),
		at("GET", "/room", CanOpen, s.door),
		at("POST", "/room", CanOpen, s.formed, s.enter),
		at("GET", "/room/:code", CanFollow, s.room),
		at("GET", "/room/:code/live", CanFollow, s.liveRoom),
		at("GET", "/room/:code/look.css", CanFollow, s.lookSheet),
		at("GET", "/room/:code/files/:file", CanFollow, s.roomFile),
		at("GET", "/room/:code/files/:file/small", CanFollow, s.roomFile),

		// Links that ask for a password.
		at("POST", "/walk/:token/unlock", CanOpen, s.formed, s.unlock),
		at("POST", "/hand/:token/unlock", CanOpen, s.formed, s.unlock),
		at("POST", "/judge/:token/unlock", CanOpen, s.formed, s.unlock),

		// A walk, for whoever has its link.
		at("GET", "/walk/:token", CanWalk, spool, s.walk),
		at("GET", "/walk/:token/drawn", CanWalk, s.walkDrawn),
		at("GET", "/walk/:token/files/:file", CanWalk, s.walkFile),
		at("GET", "/walk/:token/files/:file/small", CanWalk, s.walkFile),
		at("GET", "/walk/:token/look.css", CanWalk, s.walkSheet),

		// A map in a frame on pages of others, and how those show what somebody pastes there.
		at("GET", "/frame/:token", CanWalk, s.framed, spool, s.frame),
		at("GET", "/frame/:token/drawn", CanWalk, s.framed, s.frameDrawn),
		at("GET", "/frame/:token/files/:file", CanWalk, s.walkFile),
		at("GET", "/frame/:token/files/:file/small", CanWalk, s.walkFile),
		at("GET", "/frame/:token/look.css", CanWalk, s.walkSheet),
		at("GET", "/oembed", CanOpen, s.oembed),
		at("POST", "/maps/:map/frames", CanShare, s.formed, s.postFrame),

		// The picture of a map as it is at any time, for whoever has its link.
		at("GET", "/picture/:token/:name", CanSee, s.currentPicture),
		at("POST", "/maps/:map/picture-links", CanShare, s.postPictureLink),

		// Judging, for whoever has its link.
		at("GET", "/judge/:token", CanJudge, spool, s.judgePage),
		at("GET", "/judge/:token/round", CanJudge, s.getRound),
		at("GET", "/judge/:token/round/one", CanJudge, s.getRoundOne),
		at("POST", "/judge/:token/judgements", CanJudge, s.postJudgement),
		at("GET", "/judge/:token/look.css", CanJudge, s.lookSheet),
		at("GET", "/judge/:token/files/:file", CanJudge, s.file),
		at("GET", "/judge/:token/files/:file/small", CanJudge, s.smallFile),

		// The plain hand, for whoever has its link.
		at("GET", "/hand/:token", CanAdd, spool, s.mapPage),
		at("POST", "/hand/:token/entries", CanAdd, spool, s.postEntry),
		at("GET", "/hand/:token/changes", CanLook, spool, s.changesSince),
		at("POST", "/hand/:token/view", CanAdd, spool, s.postView),
		at("POST", "/hand/:token/chosen", CanAdd, s.postChosen),
		at("GET", "/hand/:token/live", CanLook, s.live),
		at("GET", "/hand/:token/offers", CanLook, s.offers),
		at("GET", "/hand/:token/places", CanLook, s.places),
		at("GET", "/hand/:token/key", CanLook, s.key),
		at("GET", "/hand/:token/aloud", CanLook, s.aloud),
		at("GET", "/hand/:token/talk", CanLook, s.talk),
		at("GET", "/hand/:token/look.css", CanLook, s.lookSheet),
		at("GET", "/hand/:token/note", CanLook, s.noteCard),
		at("GET", "/hand/:token/brief", CanLook, s.getBrief),
		at("GET", "/hand/:token/round", CanAdd, s.getRound),
		at("GET", "/hand/:token/round/one", CanAdd, s.getRoundOne),
		at("GET", "/hand/:token/understood", CanLook, s.getUnderstood),
		at("POST", "/hand/:token/understood", CanAdd, s.formed, s.postUnderstood),
		at("GET", "/hand/:token/understood/list", CanLook, s.unclearList),
		at("GET", "/hand/:token/files/:file", CanLook, s.file),
		at("GET", "/hand/:token/files/:file/small", CanLook, s.smallFile),
	}
}

// register makes all addresses known. One that does not say what it needs is refused:
// it would be open to everybody.
func (s *server) register(r *gin.Engine, all []route) error {
	for _, one := range all {
		if !one.needs.known() {
			return fmt.Errorf("%s %s does not say what one must be able to do", one.method, one.path)
		}
		r.Handle(one.method, one.path, append([]gin.HandlerFunc{s.admit(one.needs)}, one.do...)...)
	}
	// What is part of the program is open to all.
	static, err := fs.Sub(staticFiles, "static")
	if err != nil {
		return err
	}
	r.Group("/assets", cached).StaticFS("/", filesOnly{http.FS(static)})
	r.Group("/fonts", cached).StaticFS("/", filesOnly{http.FS(face.Files())})
	r.GET("/look/fonts.css", cached, styleSheet(face.CSS("/fonts/")))
	r.GET("/look/paper.css", cached, styleSheet(display.Style()))
	r.GET("/favicon.ico", cached, func(g *gin.Context) { g.FileFromFS("mark.svg", http.FS(static)) })
	return nil
}
