from django.urls import path, register_converter
from django.urls.converters import IntConverter

from . import archives, lettering, previews, reading, setup, views
from .library import Library, OneList


class RowConverter(IntConverter):
    """The number of a row: no more digits than a row can have."""

    regex = "[0-9]{1,15}"


register_converter(RowConverter, "row")

urlpatterns = [
    path("library", Library.as_view()),
    path("library/<str:kind>", OneList.as_view()),
    path("setup", setup.Setup.as_view()),
    path("jobs", views.Jobs.as_view()),
    path("jobs/deleted", views.Deleted.as_view()),
    path("jobs/empty", views.Empty.as_view()),
    path("jobs/<uuid:job>", views.OneJob.as_view()),
    path("jobs/<uuid:job>/sources", views.Sources.as_view()),
    path("jobs/<uuid:job>/faces", lettering.Faces.as_view()),
    path("jobs/<uuid:job>/faces/shown", lettering.FacesShown.as_view()),
    path("jobs/<uuid:job>/revisions", views.Revisions.as_view()),
    path("jobs/<uuid:job>/head", views.Head.as_view()),
    path("jobs/<uuid:job>/copies", views.Copies.as_view()),
    path("jobs/<uuid:job>/pictures/<str:sha256>", views.PictureShown.as_view()),
    path("archives", archives.Archives.as_view()),
    path("staged/<uuid:staged>/look", archives.Look.as_view()),
    path("staged/<uuid:staged>/picture", archives.Picture.as_view()),
    path("runs/<uuid:run>", views.OneRun.as_view()),
    path("runs/<uuid:run>/cancel", views.CancelRun.as_view()),
    path("jobs/<uuid:job>/trace/proposal", previews.Proposal.as_view()),
    path("reference-sheet", previews.ReferenceSheet.as_view()),
    path("jobs/<uuid:job>/trace/tiles", previews.Tiles.as_view()),
    path("jobs/<uuid:job>/trace/measure", previews.Measure.as_view()),
    path("jobs/<uuid:job>/trace/preview", previews.TracePreview.as_view()),
    path("jobs/<uuid:job>/steps/preview", previews.StepPreview.as_view()),
    path("revisions/<row:revision>/findings", views.Findings.as_view()),
    path("revisions/<row:revision>/verdict", views.Verdict.as_view()),
    path("revisions/<row:revision>/findings/<str:key>/mend", views.MendPreview.as_view()),
    path("revisions/<row:revision>/files/<str:format_id>", views.File.as_view()),
    path("revisions/<row:revision>/assembly/<str:format_id>", views.Assembly.as_view()),
    path("revisions/<row:revision>/proof/<str:format_id>", views.Proof.as_view()),
    path("revisions/<row:revision>/proof", views.ProofOfFile.as_view()),
    path("documents/<str:document>/drawing", views.Drawing.as_view()),
    path("documents/<str:document>/paths", views.Paths.as_view()),
    path("documents/<str:document>/reading", reading.Reading.as_view()),
    path("documents/<str:document>/near", reading.Near.as_view()),
    path("documents/<str:document>/between", reading.Between.as_view()),
    path("documents/<str:document>/handles", reading.Handles.as_view()),
    path("documents/<str:document>/apart", reading.Apart.as_view()),
    path("documents/<str:document>/weeded/<str:machine>", reading.Weeded.as_view()),
    path("documents/<str:document>/sketch", views.Sketch.as_view()),
]
