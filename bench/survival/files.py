"""Files as a stranger might send them: mutated, cut, nested, endless, made to hurt."""

from __future__ import annotations

import io
import json
import os
import random
import struct
import zipfile
import zlib
from collections.abc import Callable, Iterator
from copy import deepcopy
from itertools import chain
from pathlib import Path

from bench.survival.rounds import HANG_S, Tally, data, run

__all__ = ["bundles", "no_files", "pictures", "poses", "settings", "studies", "views"]

# Many files in one process: a file that hangs is told by the time of each, a traceback ends it.
_EACH = """
import io, os, resource, sys, time, contextlib
from pathlib import Path
import bralto.cli.main as main
for path in sorted(Path(sys.argv[1]).iterdir()):
    begun, at_work = time.monotonic(), time.process_time()
    out, err = io.StringIO(), io.StringIO()
    status = 0
    arguments = [one.replace("FILE", str(path)) for one in sys.argv[2:]]
    with contextlib.redirect_stdout(out), contextlib.redirect_stderr(err):
        try:
            main.run(arguments)
        except SystemExit as ended:
            status = ended.code or 0
    took = max(time.process_time() - at_work, (time.monotonic() - begun) / 4)  # as in rounds.py
    lines = len(err.getvalue().splitlines())
    raw = any(ord(c) < 32 and c not in "\\n\\t" for c in out.getvalue() + err.getvalue())
    if status not in (0, 1, 2) or took > 5.0 or lines > 1 or raw:
        print("BAD", path.name, status, f"{took:.1f}", lines, raw, err.getvalue()[:150].strip())
print("done")
"""


def _mutants(text: bytes, chance: random.Random, count: int) -> Iterator[bytes]:
    """Bytes changed, cut, doubled, put elsewhere, and words that readers stumble over."""
    words = (
        b"null", b"-1", b"1e999", b"NaN", b"9" * 5000, b"[" * 3000, b"{}", b'"\\ud800"', b"\x00",
        b'"\\u0000\\u001b[2J"', b"true", b"0", b"''", b"1e308", b"-Infinity", b'""', b"\xff\xfe",
        b"step = -1", b"[[landmark]]", b"[" * 700 + b"]" * 700, b'{"a":' * 700 + b"0" + b"}" * 700,
    )  # fmt: skip
    for _ in range(count):
        made = bytearray(text)
        for _ in range(chance.randrange(1, 5)):
            way, at = chance.randrange(6), chance.randrange(len(made) + 1)
            end = min(len(made), at + chance.randrange(1, 60))
            if way == 0:
                made[at:end] = b""
            elif way == 1:
                made[at:at] = made[at:end]
            elif way == 2:
                made[at:end] = chance.choice(words)
            elif way == 3:
                made[at:at] = chance.choice(words)
            elif way == 4 and made:
                made[min(at, len(made) - 1)] = chance.randrange(256)
            else:
                # A value of a key is exchanged for a word.
                colon = made.find(b":", at)
                comma = made.find(b",", colon) if colon >= 0 else -1
                if comma > 0:
                    made[colon + 1 : comma] = chance.choice(words)
        yield bytes(made)


_ODD: tuple[object, ...] = (
    None, -1, 0, 1e308, True, "", [], {}, [[]], [1, 2], ["a"], "x" * 400, [{}], 10**30, "\x00",
    -1e9, {"a": 1}, [["a", "b"]], "\ud800", "crown",
)  # fmt: skip


def _exchanged(text: bytes, chance: random.Random, count: int) -> Iterator[bytes]:
    """JSON that is whole, with a value or two exchanged for odd ones, moved or taken away."""

    def places(value: object) -> Iterator[tuple[object, object]]:
        if not isinstance(value, dict | list):
            return
        parts = value.items() if isinstance(value, dict) else enumerate(value)
        for key, part in list(parts):
            yield value, key
            if isinstance(part, dict | list):
                yield from places(part)

    for _ in range(count):
        made = json.loads(text)
        for _ in range(chance.randrange(1, 3)):
            holder, key = chance.choice(list(places(made)))
            if chance.random() < 0.2:
                del holder[key]  # type: ignore[attr-defined]
            elif isinstance(holder, dict) and chance.random() < 0.2:
                holder[f"{key}_"] = holder[key]
            elif chance.random() < 0.05:  # too deep for what calls itself
                made["own"] = json.loads(b"[" * 450 + b"]" * 450)
            else:
                holder[key] = deepcopy(chance.choice(_ODD))  # type: ignore[index]
        yield json.dumps(made).encode()


def _lines_exchanged(text: bytes, chance: random.Random, count: int) -> Iterator[bytes]:
    """TOML that is whole, with the value of a line or two exchanged for odd ones."""
    odd = (
        "-1", "[]", "{}", '""', "[1, 2]", "true", '[["a"]]', "nan", "1e308", '"edges"', "[[[]]]",
        '["a", "b"]', "1979-05-27", "0", '[["a", "b"]]', "-inf", "{a = 1}", '"a\\u001b[2Jb"',
    )  # fmt: skip
    lines = text.decode().splitlines()
    keyed = [i for i, line in enumerate(lines) if "=" in line and not line.startswith("#")]
    for _ in range(count):
        made = list(lines)
        for _ in range(chance.randrange(1, 3)):
            at = chance.choice(keyed)
            made[at] = f"{made[at].split('=')[0]}= {chance.choice(odd)}"
        yield "\n".join(made).encode()


def _each(scratch: Path, made: Iterator[bytes], ending: str, *arguments: str) -> Tally:
    """Give every file to a command, a hundred a process."""
    tally = Tally()
    folder, batch, number = scratch / "files", 0, 0

    def flush() -> None:
        nonlocal batch
        if batch:
            one = run(_EACH, folder, *arguments, env={"XDG_STATE_HOME": str(scratch / "state")})
            bad = [line for line in one.out.splitlines() if line.startswith("BAD")]
            tally.rounds += batch
            tally.peak_mb = max(tally.peak_mb, one.peak_mb)
            tally.raised += len(bad)
            tally.notes += bad
            if "done" not in one.out:
                tally.raised += 1
                tally.notes.append(f"{one.status} {one.err[-300:]}")
            for path in folder.iterdir():
                path.unlink()
        batch = 0

    folder.mkdir()
    for one in made:
        (folder / f"{number:05}{ending}").write_bytes(one)
        number, batch = number + 1, batch + 1
        if batch == 100:
            flush()
    flush()
    return tally


def _count(share: float) -> int:
    return max(8, round(2000 * share))


def studies(scratch: Path, share: float) -> Tally:
    """`bralto measure` and `bralto find`."""
    text = data("pencil-figure.json").read_bytes()
    chance = random.Random(6)
    half = _count(share) // 2
    made = chain(_mutants(text, chance, half), _exchanged(text, chance, half))
    tally = _each(scratch, made, ".json", "measure", "FILE")
    other = scratch / "find"
    other.mkdir()
    more = _each(other, _exchanged(text, chance, half // 2), ".json", "find", "FILE")
    many = _many_anchors(text)
    last = scratch / "many"
    last.mkdir()
    most = _each(last, iter(many), ".json", "find", "FILE")
    for one in (more, most):
        tally.rounds += one.rounds
        tally.raised += one.raised
        tally.notes += one.notes
    return tally


def _many_anchors(text: bytes) -> list[bytes]:
    """As many extra landmarks as a study may have, and more."""
    out = []
    for count in (40, 41, 400):
        study = json.loads(text)
        study["anchors"] = [{"key": f"a{i}", "label": f"place {i}"} for i in range(count)]
        for i in range(count):
            study["reference"]["marks"][f"a{i}"] = [7.0 + 1.7 * i, 9.0 + 2.3 * (i * i % 97)]
        out.append(json.dumps(study).encode())
    return out


def views(scratch: Path, share: float) -> Tally:
    """`bralto views FILE`: a learner's own view."""
    import bralto.core.views.shipped_views as shipped

    source = sorted((Path(shipped.__file__).parent / "data").glob("*.toml"))[0].read_bytes()
    source = source.replace(b'key = "', b'key = "own-', 1)  # a shipped key is refused at once
    chance, half = random.Random(7), _count(share) // 2
    made = chain(_mutants(source, chance, half), _lines_exchanged(source, chance, half))
    return _each(scratch, made, ".toml", "views", "FILE")


def poses(scratch: Path, share: float) -> Tally:
    """`bralto pose FILE --save`: read, checked, written again."""
    from bralto.core.mannequin.setting import set_up
    from bralto.exchange.pose_file import write_settings

    write_settings((set_up("hand-on-hip", "seven-and-a-half"),), scratch / "pose.json")
    text = (scratch / "pose.json").read_bytes()
    chance, half = random.Random(8), _count(share) // 2
    made = chain(_mutants(text, chance, half), _exchanged(text, chance, half))
    return _each(scratch, made, ".json", "pose", "FILE", "--save", str(scratch / "saved.json"))


def _bundle(text: bytes, extra: dict[str, bytes] | None = None) -> bytes:
    out = io.BytesIO()
    with zipfile.ZipFile(out, "w", zipfile.ZIP_DEFLATED) as archive:
        archive.writestr("mimetype", "application/vnd.bralto.study+zip", zipfile.ZIP_STORED)
        archive.writestr("study.json", text)
        for name, content in (extra or {}).items():
            archive.writestr(name, content)
    return out.getvalue()


def bundles(scratch: Path, share: float) -> Tally:
    """`bralto measure` on bundles: mutated bytes, and archives that lie about their size."""
    text = data("pencil-figure.json").read_bytes()
    plain = _bundle(text)
    chance = random.Random(9)
    bomb = _bundle(text, {"media/a.jpg": bytes(64 * 1024**2)})
    huge = _bundle(b" " * (200 * 1024**2))
    listing = _bundle(text, {f"media/{i}": b"" for i in range(3000)})
    lying = bytearray(_bundle(b" " * (100 * 1024**2)))
    at = lying.rfind(b"PK\x01\x02")
    lying[at + 24 : at + 28] = struct.pack("<I", 1000)  # says that it is small
    first = _bundle(text)
    own = [plain, bomb, huge, listing, bytes(lying), first[: len(first) // 2]]
    made = iter([*own, *_mutants(plain, chance, _count(share))])
    return _each(scratch, made, ".bralto", "measure", "FILE")


_SETTINGS = """
import sys, time
from pathlib import Path
from bralto.ui.settings import Settings
for path in sorted(Path(sys.argv[1]).iterdir()):
    begun = time.monotonic()
    found = Settings(path)
    (found.drop_folder, found.guess_first, found.text_scale, found.step_back_min)
    found.set_step_back_min(8)
    assert Settings(path).step_back_min == 8, path
    if time.monotonic() - begun > 1.0:
        print("slow", path)
"""


def settings(scratch: Path, share: float) -> Tally:
    """Settings are read whatever they are, and kept again."""
    text = b'{"drop_folder": "/a", "guess_first": false, "text_scale": 130, "step_back_min": 7}'
    tally, number = Tally(), 0
    nested = b'{"own": ' + b"[" * 700 + b"]" * 700 + b"}"
    own = [b"[" * 100_000, nested, b"", b"9" * 10_000, b'{"step_back_min": 1e400}', b"\x00" * 50]
    for one in [*own, *_mutants(text, random.Random(10), _count(share))]:
        folder = scratch / f"{number:05}"
        folder.mkdir()
        (folder / "settings.json").write_bytes(one)
        number += 1
    found = run(_SETTINGS, scratch)
    tally.add(found, "settings", 30.0)
    tally.rounds = number
    tally.hung += found.out.count("slow")
    return tally


# Pictures

_PICTURES = """
import sys, time
from pathlib import Path
from bralto.core.errors import UserError
from bralto.imaging.load import clean_picture
for path in sorted(Path(sys.argv[1]).iterdir()):
    begun, at_work = time.monotonic(), time.process_time()
    try:
        clean_picture(path)
    except UserError as error:
        if "\\n" in str(error):
            print("BAD", path.name, str(error)[:100])
    took = max(time.process_time() - at_work, (time.monotonic() - begun) / 4)
    if took > 5.0:
        print("SLOW", path.name, f"{took:.1f}")
print("done")
"""


def _encoded(kind: str, size: tuple[int, int] = (160, 120), mode: str = "RGB") -> bytes:
    from PIL import Image

    image = Image.effect_noise(size, 50).convert("RGB").convert(mode)
    if kind == "HEIF":
        import pillow_heif

        pillow_heif.register_heif_opener()
    out = io.BytesIO()
    image.save(out, kind)
    return out.getvalue()


def _png(width: int, height: int, kind: int, depth: int) -> bytes:
    """A PNG of one colour: small in its file, large once it is opened."""

    def chunk(name: bytes, content: bytes) -> bytes:
        body = name + content
        return struct.pack(">I", len(content)) + body + struct.pack(">I", zlib.crc32(body))

    channels = {0: 1, 2: 3, 4: 2, 6: 4}[kind]
    row = b"\0" + bytes(width * channels * depth // 8)
    packer = zlib.compressobj(9)
    parts = [packer.compress(row) for _ in range(height)]
    parts.append(packer.flush())
    head = struct.pack(">IIBBBBB", width, height, depth, kind, 0, 0, 0)
    start = b"\x89PNG\r\n\x1a\n" + chunk(b"IHDR", head)
    return start + chunk(b"IDAT", b"".join(parts)) + chunk(b"IEND", b"")


def pictures(scratch: Path, share: float) -> Tally:
    """`clean_picture` on mutated pictures of every format, a hundred a process; bombs alone."""
    tally, chance = Tally(), random.Random(11)
    count = max(8, round(700 * share))
    kinds = ("JPEG", "PNG", "WEBP", "TIFF", "BMP", "HEIF", "AVIF", "PDF")
    sources = [_encoded(kind) for kind in kinds]
    made = [mutant for number in range(count)
            for mutant in _mutants(sources[number % len(sources)], chance, 1)]  # fmt: skip
    for first in range(0, len(made), 100):
        folder = scratch / f"from-{first}"
        folder.mkdir()
        for number, mutant in enumerate(made[first : first + 100]):
            (folder / f"{number:04}.jpg").write_bytes(mutant)
        one = run(_PICTURES, folder)
        tally.add(one, f"from {first}", 60.0)
        tally.rounds += len(made[first : first + 100]) - 1
        bad = [line for line in one.out.splitlines() if line.startswith(("BAD", "SLOW"))]
        tally.raised += len(bad)
        tally.notes += bad
        if "done" not in one.out:
            tally.raised += 1
            tally.notes.append(f"{one.status} {one.err[-300:]}")
    # Opened where they may be, refused where not; alone, for their memory.
    bombs: list[Callable[[], bytes]] = [
        lambda: _png(8900, 8900, 2, 8), lambda: _png(8900, 8900, 6, 8),
        lambda: _png(8900, 8900, 0, 16), lambda: _png(8900, 8900, 4, 8),
        lambda: _png(12000, 10000, 2, 8), lambda: _png(40000, 40000, 0, 1),
        lambda: _png(8900, 8900, 6, 16),
    ]  # fmt: skip
    for number, bomb in enumerate(bombs if share >= 1.0 else bombs[4:6]):
        folder = scratch / f"bomb-{number}"
        folder.mkdir()
        (folder / "bomb.png").write_bytes(bomb())
        one = run(_PICTURES.replace("took > 5.0", "took > 20.0"), folder)
        tally.add(one, f"bomb {number}", 25.0)
        tally.notes += [line for line in one.out.splitlines() if line.startswith(("BAD", "SLOW"))]
    return tally


def no_files(scratch: Path, share: float) -> Tally:
    """What is no file, or has no end, in every place where a file is named."""
    tally = Tally()
    os.mkfifo(scratch / "pipe.json")
    os.mkfifo(scratch / "pipe.bralto")
    os.mkfifo(scratch / "pipe.toml")
    (scratch / "folder.json").mkdir()
    (scratch / "loop.json").symlink_to(scratch / "loop.json")
    with (scratch / "film.json").open("wb") as file:
        file.truncate(3 * 1024**3)
    (scratch / "film.jpg").symlink_to(scratch / "film.json")
    named = ["pipe.json", "folder.json", "loop.json", "film.json", "none.json"]
    code = "import sys; from bralto.cli.main import run; run(sys.argv[1:])"
    asked: list[tuple[str, ...]] = [
        (command, str(scratch / name)) for name in named for command in ("measure", "find")
    ]
    asked += [("measure", str(scratch / "pipe.bralto")), ("views", str(scratch / "pipe.toml"))]
    asked += [("measure", "/dev/zero"), ("measure", "/dev/null"), ("plan", "/dev/zero")]
    asked += [("import", str(scratch / name)) for name in (*named, "pipe.bralto")]
    asked += [("export", "none", str(scratch / "out.bralto")), ("library", "restore")]
    asked += [("pose", "hand-on-hip", str(scratch / "folder.png"))]
    env = {"BRALTO_LIBRARY": str(scratch / "library"), "XDG_STATE_HOME": str(scratch / "state")}
    for given in asked if share >= 1.0 else asked[::4]:
        one = run(code, *given, env=env)
        tally.add(one, " ".join(given), HANG_S)
        if one.status != 2 or len(one.err.splitlines()) != 1:
            tally.raised += 1
            tally.notes.append(f"{given}: {one.status} {one.err[:150]}")
    picture = (
        "import sys; from pathlib import Path; from bralto.imaging.load import clean_picture\n"
        "from bralto.core.errors import UserError\n"
        "try: clean_picture(Path(sys.argv[1]))\n"
        "except UserError as error: print(error)\n"
    )
    for name in ("pipe.json", "folder.json", "film.jpg", "none.jpg"):
        one = run(picture, scratch / name)
        tally.add(one, f"picture {name}")
        if not one.out:
            tally.raised += 1
    return tally
