"""What was set of layers beside the steps becomes steps at the end of each revision; the designs stay as they are."""

import hashlib
import json
import secrets

from django.db import migrations

MADE = ("name", "color", "treatment", "material", "mirrored")
EMPTY = {"version": 1, "page": None, "layers": [], "pieces": [], "groups": [], "pictures": []}


def digest_of(data) -> str:
    return hashlib.sha256(json.dumps(data, sort_keys=True).encode()).hexdigest()


def layers_become_steps(apps, _):
    Revision, RevisionStep = apps.get_model("jobs", "Revision"), apps.get_model("jobs", "RevisionStep")
    StepVersion, Result = apps.get_model("jobs", "StepVersion"), apps.get_model("jobs", "Result")
    StoredDocument = apps.get_model("jobs", "StoredDocument")
    keys, versions = {}, {}

    def step_of(job, layer, values):
        key = keys.setdefault((job, layer), secrets.token_hex(5))
        parameters = {"layer": layer, **{n: ("" if v is None else v) for n, v in sorted(values.items())}}
        known = (key, json.dumps(parameters))
        if known not in versions:
            versions[known] = StepVersion.objects.create(key=key, operation="layer", version=1, parameters=parameters)
        return versions[known]

    def result_of(step, before, manifest):
        digest = digest_of(manifest)
        StoredDocument.objects.get_or_create(hash=digest, defaults={"manifest": manifest})
        data = {n: getattr(step, n) for n in ("key", "operation", "version", "parameters", "selection", "enabled")}
        name = next(layer["name"] for layer in manifest["layers"] if layer["id"] == step.parameters["layer"])
        values = {"document_id": digest, "title": f"{name} set anew"}
        return Result.objects.get_or_create(key=digest_of(data | {"input": before}), defaults=values)[0]

    for revision in Revision.objects.order_by("pk").iterator():
        said = revision.settings.get("layers", {})
        made = {layer: {n: v for n, v in values.items() if n in MADE} for layer, values in said.items()}
        made = {layer: values for layer, values in made.items() if values}
        if not made:
            continue
        rows = list(RevisionStep.objects.filter(revision=revision).select_related("result").order_by("position"))
        last = next((row.result.document_id for row in reversed(rows) if row.result), None)
        manifest = StoredDocument.objects.get(pk=last).manifest if last else EMPTY
        before, position = last or digest_of(EMPTY), len(rows)
        for layer, values in made.items():
            if not any(one["id"] == layer for one in manifest["layers"]):
                continue
            layers = [{**one, **values} if one["id"] == layer else one for one in manifest["layers"]]
            manifest = {**manifest, "layers": layers}
            step = step_of(revision.job_id, layer, values)
            result = result_of(step, before, manifest)
            RevisionStep.objects.create(revision=revision, position=position, step=step, result=result)
            before, position = result.document_id, position + 1
        seen = {layer: {n: v for n, v in values.items() if n not in MADE} for layer, values in said.items()}
        revision.settings["layers"] = {layer: values for layer, values in seen.items() if values}
        revision.save(update_fields=["settings"])


class Migration(migrations.Migration):
    dependencies = [("jobs", "0004_revision_token")]
    operations = [migrations.RunPython(layers_become_steps, migrations.RunPython.noop)]
