"""Pictures that people take in for the dossier: checked, turned upright, no larger than print needs, and written anew."""

from __future__ import annotations

import hashlib
import io

from django.contrib.auth.models import User
from django.db import transaction
from PIL import Image, ImageOps, UnidentifiedImageError

from engine.document.handover import DossierPlan
from engine.errors import ModelError
from server.projects import quotas
from server.projects.dossier_schemas import PictureOut
from server.projects.models import Picture, Project

#: kinds that are read; pictures of a project, pixels of a picture as it comes and of its longer side as it is kept
READ = ("PNG", "JPEG", "WEBP")
MOST, MOST_PIXELS, LONGEST = 60, 40_000_000, 2400
#: bytes of a PNG above which it is kept as JPEG
LARGE = 2_000_000


def receive(user: User, project: Project, name: str, data: bytes) -> PictureOut:
    """Keep a picture with its project; one that is there already is that one. Raises ModelError for what is none, is too large, or one
    too many."""
    written, kind, size = _anew(data)
    key = hashlib.sha256(written).hexdigest()[:16]
    quotas.check(project.owner)
    with transaction.atomic():
        Project.objects.select_for_update().get(pk=project.pk)
        there = project.pictures.filter(key=key).first()
        if there is None and project.pictures.count() >= MOST:
            raise ModelError(f"The project has {MOST} pictures, which is the most it may have.", "file")
        values = {
            "name": name[-120:],
            "kind": kind,
            "width": size[0],
            "height": size[1],
            "data": written,
            "person": user,
        }
        found = there or Picture.objects.create(project=project, key=key, **values)
    return PictureOut(key=found.key, name=found.name, width=found.width, height=found.height)


def _anew(data: bytes) -> tuple[bytes, str, tuple[int, int]]:
    """A picture as PNG or JPEG without anything else that its file bore, with its kind and size in pixels."""
    try:
        with Image.open(io.BytesIO(data), formats=READ) as opened:
            if opened.width * opened.height > MOST_PIXELS:
                words = f"The picture has {opened.width} × {opened.height} pixels; {MOST_PIXELS // 1_000_000} million are taken at most."
                raise ModelError(words, "file")
            drawn = opened.format == "PNG" or "A" in opened.getbands()
            shown: Image.Image = ImageOps.exif_transpose(opened)
            shown = shown.convert("RGBA" if "A" in shown.getbands() or "transparency" in shown.info else "RGB")
    except UnidentifiedImageError:
        raise ModelError("The file is no picture that can be taken in; PNG, JPEG and WebP can.", "file") from None
    except (OSError, ValueError, SyntaxError, Image.DecompressionBombError) as error:
        raise ModelError(f"The picture cannot be read: {str(error)[:120] or type(error).__name__}.", "file") from None
    shown.thumbnail((LONGEST, LONGEST))
    file = io.BytesIO()
    if drawn:
        shown.save(file, "PNG", optimize=True)
    # a photograph as PNG takes ten times the room
    if not drawn or (shown.mode == "RGB" and file.tell() > LARGE):
        file, drawn = io.BytesIO(), False
        shown.save(file, "JPEG", quality=88)
    return file.getvalue(), "image/png" if drawn else "image/jpeg", shown.size


def of(project: Project, plan: DossierPlan) -> dict[str, bytes]:
    """The pictures that a dossier shows, by key; those that the project does not have are left out."""
    return {p.key: bytes(p.data) for p in project.pictures.filter(key__in=plan.pictures)}
