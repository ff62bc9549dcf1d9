from django.urls import include, path, register_converter
from django.urls.converters import IntConverter

from .views import (
    archives,
    documents,
    jobs,
    lettering,
    library,
    previews,
    revisions,
    runs,
    sendings,
    setup,
    sheets,
    working,
)


class RowConverter(IntConverter):
    """The number of a row: no more digits than a row can have."""

    regex = "[0-9]{1,15}"


register_converter(RowConverter, "row")

#: What belongs to a revision of a job, and to a document of one.
OF_REVISION = [
    path("findings", revisions.Findings.as_view()),
    path("verdict", revisions.Verdict.as_view()),
    path("findings/<str:key>/mend", revisions.MendPreview.as_view()),
    path("files/<str:format_id>", revisions.File.as_view()),
    path("archive", revisions.Archive.as_view()),
    path("assembly/<str:format_id>", revisions.Assembly.as_view()),
    path("proof/<str:format_id>", revisions.Proof.as_view()),
    path("proof", revisions.ProofOfFile.as_view()),
    path("program", working.Program.as_view()),
    path("program/sendings", sendings.Send.as_view()),
    path("program/file", working.ProgramFile.as_view()),
    path("program/place", working.ProgramPlace.as_view()),
    path("sheets", sheets.Sheets.as_view()),
    path("sheets/<row:sheet>/files/<str:format_id>", sheets.SheetFile.as_view()),
    path("sheets/<row:sheet>/proof/<str:format_id>", sheets.SheetProof.as_view()),
    path("sheets/<row:sheet>/print", sheets.Print.as_view()),
    path("sheets/<row:sheet>/placing/<str:format_id>", sheets.PlacingPage.as_view()),
]
OF_DOCUMENT = [
    path("drawing", documents.Drawing.as_view()),
    path("paths", documents.Paths.as_view()),
    path("reading", documents.Reading.as_view()),
    path("near", documents.Near.as_view()),
    path("between", documents.Between.as_view()),
    path("handles", documents.Handles.as_view()),
    path("apart", documents.Apart.as_view()),
    path("weeded/<str:machine>", documents.Weeded.as_view()),
    path("sketch", documents.Sketch.as_view()),
]
OF_JOB = [
    path("sources", jobs.Sources.as_view()),
    path("faces", lettering.Faces.as_view()),
    path("faces/shown", lettering.FacesShown.as_view()),
    path("revisions", jobs.Revisions.as_view()),
    path("head", jobs.Head.as_view()),
    path("copies", jobs.Copies.as_view()),
    path("pictures/<str:sha256>", jobs.PictureShown.as_view()),
    path("sendings", sendings.OfJob.as_view()),
    path("sendings/<row:sending>/<str:what>", sendings.Told.as_view()),
    path("runs/<uuid:run>", runs.OneRun.as_view()),
    path("runs/<uuid:run>/cancel", runs.CancelRun.as_view()),
    path("runs/<uuid:run>/settle", runs.SettleRun.as_view()),
    path("trace/proposal", previews.Proposal.as_view()),
    path("trace/tiles", previews.Tiles.as_view()),
    path("trace/measure", previews.Measure.as_view()),
    path("trace/preview", previews.TracePreview.as_view()),
    path("steps/preview", previews.StepPreview.as_view()),
    path("revisions/<row:revision>/", include(OF_REVISION)),
    path("documents/<str:document>/", include(OF_DOCUMENT)),
]
urlpatterns = [
    path("library", library.Library.as_view()),
    path("library/cutting-test", library.CuttingTestFile.as_view()),
    path("library/<str:kind>", library.OneList.as_view()),
    path("setup", setup.Setup.as_view()),
    path("reference-sheet", previews.ReferenceSheet.as_view()),
    path("archives", archives.Archives.as_view()),
    path("staged/<uuid:staged>/look", archives.Look.as_view()),
    path("staged/<uuid:staged>/picture", archives.Picture.as_view()),
    path("jobs", jobs.Jobs.as_view()),
    path("jobs/deleted", jobs.Deleted.as_view()),
    path("jobs/empty", jobs.Empty.as_view()),
    path("jobs/<uuid:job>", jobs.OneJob.as_view()),
    path("jobs/<uuid:job>/", include(OF_JOB)),
]
