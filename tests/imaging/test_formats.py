"""Formats of phones and scanners, what a photo says of itself, and files made to hurt."""

from __future__ import annotations

import io
import time
from pathlib import Path

import numpy as np
import pytest
from PIL import Image, ImageCms

from bralto.core.errors import UserError
from bralto.imaging.decode import open_picture
from bralto.imaging.load import clean_picture
from bralto.imaging.photo_facts import Facts, facts_of


def scene(width: int = 90, height: int = 60) -> Image.Image:
    x = np.linspace(0, 255, width)[None, :] * np.ones((height, 1))
    y = np.linspace(0, 255, height)[:, None] * np.ones((1, width))
    return Image.fromarray(np.stack([x, y, 255 - x], axis=2).astype(np.uint8))


def encoded(kind: str, **more: object) -> bytes:
    if kind == "HEIF":
        import pillow_heif

        pillow_heif.register_heif_opener()
    out = io.BytesIO()
    scene().save(out, kind, **more)
    return out.getvalue()


@pytest.mark.parametrize("kind", ["JPEG", "PNG", "WEBP", "TIFF", "HEIF", "AVIF", "BMP", "PDF"])
def test_every_format_is_read_whatever_its_ending(tmp_path: Path, kind: str) -> None:
    path = tmp_path / "a.jpg"  # phones rename freely; what is inside decides
    path.write_bytes(encoded(kind))
    image = open_picture(path)
    assert image.mode == "RGB"
    clean = clean_picture(path)
    assert min(clean.width, clean.height) >= 60
    assert clean.suffix == (".png" if kind in {"PNG", "TIFF", "BMP"} else ".jpg")


def test_a_pdf_scan_comes_at_300_dots_an_inch(tmp_path: Path) -> None:
    scene(600, 300).save(tmp_path / "scan.pdf", resolution=72.0)  # 600 x 300 points
    assert open_picture(tmp_path / "scan.pdf").size == (2500, 1250)


UNDONE_BY = {
    2: Image.Transpose.FLIP_LEFT_RIGHT,
    3: Image.Transpose.ROTATE_180,
    4: Image.Transpose.FLIP_TOP_BOTTOM,
    5: Image.Transpose.TRANSPOSE,
    6: Image.Transpose.ROTATE_90,
    7: Image.Transpose.TRANSVERSE,
    8: Image.Transpose.ROTATE_270,
}
"""How an upright picture is stored for each orientation (EXIF 2.32, 4.6.4)."""


@pytest.mark.parametrize("orientation", range(1, 9))
def test_all_eight_orientations_come_upright(tmp_path: Path, orientation: int) -> None:
    stored = scene()
    if orientation in UNDONE_BY:
        stored = stored.transpose(UNDONE_BY[orientation])
    exif = Image.Exif()
    exif[0x0112] = orientation
    stored.save(tmp_path / "a.png", exif=exif)
    assert np.array_equal(np.asarray(open_picture(tmp_path / "a.png")), np.asarray(scene()))


def test_colours_come_in_srgb_and_the_profile_goes(tmp_path: Path) -> None:
    """L* = 50 without a hue is sRGB 119 (CIE 1976 and IEC 61966-2-1, by hand: 118.9)."""
    grey = Image.new("RGB", (40, 40), (128, 128, 128))
    srgb, lab = (
        ImageCms.ImageCmsProfile(ImageCms.createProfile(name)).tobytes() for name in ("sRGB", "LAB")
    )
    grey.save(tmp_path / "a.png", icc_profile=srgb)
    assert open_picture(tmp_path / "a.png").getpixel((5, 5)) == (128, 128, 128)
    Image.new("LAB", (40, 40), (128, 128, 128)).save(tmp_path / "lab.tif", icc_profile=lab)
    red, green, blue = open_picture(tmp_path / "lab.tif").getpixel((5, 5))
    assert max(abs(one - 119) for one in (red, green, blue)) <= 2
    grey.save(tmp_path / "b.png", icc_profile=b"not a profile at all")
    assert open_picture(tmp_path / "b.png").getpixel((5, 5)) == (128, 128, 128)
    kept = Image.open(io.BytesIO(clean_picture(tmp_path / "a.png").data))
    assert "icc_profile" not in kept.info


def photo_with(tmp_path: Path, details: dict[int, object]) -> Path:
    exif = Image.Exif()
    exif[0x010F] = "A Camera Maker"
    exif.get_ifd(0x8769).update(details)
    scene().save(tmp_path / "p.jpg", exif=exif)
    return tmp_path / "p.jpg"


@pytest.mark.parametrize(
    ("details", "facts"),
    [
        (
            {0x9003: "2026:09:08 18:30:05", 0x9011: "+02:00", 0xA405: 26},
            Facts("2026-09-08T18:30:05+02:00", 26.0),
        ),
        ({0x9003: "2026:09:08 18:30:05"}, Facts("2026-09-08T18:30:05", None)),
        ({0x9003: "0000:00:00 00:00:00", 0xA405: 0}, Facts()),
        ({0x9003: "yesterday", 0x9011: "noon", 0xA405: 60000}, Facts()),
        ({}, Facts()),
    ],
)
def test_when_and_through_which_lens_is_kept_and_nothing_else(
    tmp_path: Path, details: dict[int, object], facts: Facts
) -> None:
    path = photo_with(tmp_path, details)
    clean = clean_picture(path)
    assert clean.facts == facts
    assert b"A Camera Maker" not in clean.data


@pytest.mark.filterwarnings("ignore:Corrupt EXIF")  # what Pillow says of it, and goes on
def test_hostile_metadata_is_no_reason_to_refuse_a_picture(tmp_path: Path) -> None:
    data = bytearray(encoded("JPEG", exif=b"Exif\0\0MM\0*\0\0\0\x08\xff\xff" + b"\xff" * 300))
    (tmp_path / "a.jpg").write_bytes(bytes(data))
    assert clean_picture(tmp_path / "a.jpg").facts == Facts()
    broken = Image.new("RGB", (4, 4))
    broken.info["exif"] = b"Exif\0\0II*\0\xff\xff\xff\xff"
    assert facts_of(broken) == Facts()


def refusal(path: Path) -> str | None:
    """What is said of a file, or None where it opens."""
    try:
        open_picture(path)
    except UserError as error:
        return str(error)
    return None


MUTATIONS = 300
SLOWEST = 5.0  # s


@pytest.mark.parametrize("kind", ["JPEG", "PNG", "WEBP", "TIFF", "HEIF", "AVIF", "PDF"])
@pytest.mark.filterwarnings("ignore")  # Pillow warns of what it meets in damaged files
def test_mutated_files_are_read_or_refused_in_one_sentence(tmp_path: Path, kind: str) -> None:
    """Bytes changed, cut out, doubled or cut short at random; no traceback and no hang."""
    rng = np.random.default_rng(sum(kind.encode()))
    whole = encoded(kind)
    path = tmp_path / "mutant.jpg"
    for _ in range(MUTATIONS):
        data = bytearray(whole)
        for _ in range(int(rng.integers(1, 8))):
            at = int(rng.integers(max(1, len(data))))
            data = data or bytearray(1)
            what = int(rng.integers(4))
            if what == 0:
                data[at] = int(rng.integers(256))
            elif what == 1:
                del data[at : at + int(rng.integers(1, 40))]
            elif what == 2:
                data[at:at] = data[at : at + int(rng.integers(1, 40))]
            else:
                del data[max(20, at) :]
        path.write_bytes(bytes(data))
        begun = time.monotonic()
        said = refusal(path)
        assert said is None or (said.startswith("mutant.jpg: ") and "\n" not in said)
        assert time.monotonic() - begun < SLOWEST
