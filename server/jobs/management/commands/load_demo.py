"""Loads the demo: the Lantern Lane Shadow Theatre's files, each as a job, once."""

from pathlib import Path

from django.core.management.base import BaseCommand

from hakobu.errors import HakobuError, NotCompiled
from jobs.history import add_revision, bring_in, create_job
from jobs.models import Job
from jobs.summary import keep_missing

FILES = Path(__file__).resolve().parents[4] / "demo" / "files"
#: Files, joined by a plus, a name and settings: a job for each.
JOBS = (
    ("capital-h.svg", "Capital for the prop crate", {"material": "thin-wood", "machine": "laser-bed"}),
    ("heron-silhouette.svg+reed-pattern.png", "Heron among reeds", {"material": "black-card", "purpose": "one"}),
    ("moth-scan.jpg+ladder.svg", "Moth on a ladder", {"material": "felt", "machine": "desk-cutter"}),
    ("name-frame.svg", "Frame for a name", {"material": "felt", "purpose": "one"}),
    ("letter-bought.svg", "Letter of the puppeteer", {"material": "black-card", "machine": "desk-cutter"}),
    ("moth-scan.jpg", "Moth for the lantern", {"material": "black-card", "machine": "desk-cutter"}),
    ("reed-sketch.jpg", "Reed by the river", {"material": "black-card", "purpose": "one"}),
    ("cast-drawing.jpg", "The cast, for a pen", {"machine": "pen-plotter"}),
    ("emblem.png", "Emblem for a costume", {"machine": "roll-cutter"}),
    ("window-lattice.png", "Lattice of the window", {"material": "black-card"}),
    ("word-kettle.png", "Word for the prop crate", {"material": "adhesive-vinyl", "machine": "roll-cutter"}),
    ("puppet-limb.jpg", "Limb of an old puppet", {"material": "black-card", "machine": "desk-cutter"}),
    ("first-night.png", "First night", {"material": "adhesive-vinyl", "machine": "roll-cutter"}),
    ("programme-sticker.png", "Programme sticker", {"machine": "roll-cutter"}),
    ("tree-bought.svg", "Tree by the river", {"material": "black-card", "machine": "desk-cutter"}),
    ("window-branch.svg", "Window with a branch", {"material": "black-card", "purpose": "one"}),
    ("lantern-frame.svg", "Frame of the lantern", {"material": "black-card", "machine": "desk-cutter"}),
    ("stencil-moon.svg", "Stencil moon", {"material": "black-card", "machine": "desk-cutter"}),
    ("kettle.png", "Kettle, act two", {"material": "black-card", "machine": "desk-cutter"}),
    ("lamp-plate.dxf", "Plate of the lamp", {"material": "black-card"}),
    ("heron-scan.jpg", "Heron, act one", {"material": "black-card", "machine": "desk-cutter"}),
    ("van-title.svg", "The Heron and the Kettle", {"material": "adhesive-vinyl", "machine": "roll-cutter"}),
)
#: Jobs that begin with words, and nothing in them yet.
WORDS = (
    ("Name for a chair", {"material": "black-card", "machine": "desk-cutter"}),
    ("Word on a shirt", {"material": "heat-vinyl", "machine": "roll-cutter"}),
    ("Title of the play", {"material": "adhesive-vinyl", "machine": "roll-cutter"}),
    ("Moth for the curtain", {"material": "felt", "machine": "desk-cutter"}),
    ("Initials of the maker", {"material": "black-card", "machine": "desk-cutter"}),
)


class Command(BaseCommand):
    help = __doc__ or ""

    def handle(self, **options) -> None:
        for name, settings in WORDS:
            origin = f"demo/words: {name}"
            if not Job.objects.filter(origin=origin).exists():
                job = create_job(name, origin)
                add_revision(job, job.head_id, [], settings)
                self.stdout.write(f"demo job: {name}")
        for files, name, settings in JOBS:
            origin = f"demo/{files}"
            if Job.objects.filter(origin=origin).exists():
                continue
            job = create_job(name, origin)
            try:
                begun = add_revision(job, job.head_id, [], settings)
                for file in files.split("+"):
                    begun = bring_in(job, begun.pk, file, (FILES / file).read_bytes())
            except NotCompiled:
                # While the kernels are being compiled; `./start` loads the demo once more after that.
                job.delete()
            except HakobuError as error:
                job.delete()
                raise SystemExit(f"The demo could not be loaded: {error.sentence}") from error
            else:
                self.stdout.write(f"demo job: {name}")
        keep_missing()
