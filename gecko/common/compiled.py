"""Compiles the functions that march a ride in time, millions of steps, to machine code. The code is kept between starts in a folder that is named
after the sources of everything that is compiled: numba by itself notices a change in the file a function stands in, but not in the files that
function calls.
"""

from __future__ import annotations

import hashlib
import os
import shutil
from collections.abc import Callable
from functools import partial
from pathlib import Path
from typing import Any, Protocol, TypeAlias, TypeVar, cast

import numba
import numpy as np
from numba.core import cgutils
from numba.extending import intrinsic
from numba.np.unsafe.ndarray import to_fixed_tuple
from numpy.typing import NDArray

F = TypeVar("F", bound=Callable[..., object])
Array: TypeAlias = NDArray[np.generic]
A = TypeVar("A", bound=Array)

_CORE = Path(__file__).resolve().parent.parent
_SOURCES = (_CORE / "common" / "compiled.py", *sorted((_CORE / "physics" / "ride").glob("*.py")))
FOLDER_NAME = "GECKO_COMPILED"
"""The environment variable that names the folder for compiled code; without it the user's cache folder is used."""


def _folder() -> Path:
    kept = os.environ.get(FOLDER_NAME) or Path(os.environ.get("XDG_CACHE_HOME") or Path.home() / ".cache") / "plucky-gecko"
    written = hashlib.sha256(b"".join(path.read_bytes() for path in _SOURCES)).hexdigest()[:16]
    return Path(kept) / written


vars(numba.config)["CACHE_DIR"] = str(_folder())


def compiled(function: F) -> F:
    """A function of plain numbers, arrays and named tuples of them, compiled at its first call and kept. Other threads go on while it runs;
    a division by zero gives infinity, as NumPy's does."""
    return _compiled(function, numba.njit)


def inlined(function: F) -> F:
    """As `compiled`, for a part of a long function: its code is inserted where it is called, so that the fifty numbers of a machine are not passed at
    every step."""
    return _compiled(function, partial(numba.njit, forceinline=True))


def _compiled(function: F, compiler: Callable[..., Callable[[F], object]]) -> F:
    # numba treats an option set to False differently from one left out: it then inlines fewer functions by itself.
    try:
        return cast(F, compiler(cache=True, nogil=True, error_model="numpy")(function))
    except RuntimeError:
        # Nowhere to keep it: each process compiles for itself.
        return cast(F, compiler(nogil=True, error_model="numpy")(function))


Lowering: TypeAlias = Any
"""What numba hands to the code below while it compiles. numba ships no types for it."""


def _uncounted(_context: Lowering, array: Lowering) -> Lowering:
    nothing: Lowering = cgutils.get_null_value

    def build(context: Lowering, builder: Lowering, signature: Lowering, values: Lowering) -> Lowering:
        same = context.make_array(signature.args[0])(context, builder, values[0])
        same.meminfo, same.parent = nothing(same.meminfo.type), nothing(same.parent.type)
        return same._getvalue()

    return array(array), build


class _Borrowed(Protocol):
    def __call__(self, array: A, /) -> A: ...


borrowed = cast(_Borrowed, intrinsic(_uncounted))
"""The same array inside a compiled function, without reference counting: the caller has to keep the array alive until the function returns. Taking an
array out of a named tuple raises and lowers its count by atomic instructions; that was half the time of a ride.
"""


as_tuple = cast(Callable[[Array, int], tuple[float, ...]], to_fixed_tuple)
"""The numbers of an array as a tuple inside a compiled function; how many there are has to be a constant."""


def forget_older() -> None:
    """Remove what was compiled from other sources than today's."""
    kept = Path(vars(numba.config)["CACHE_DIR"])
    for other in kept.parent.iterdir() if kept.parent.is_dir() else ():
        if other != kept and len(other.name) == len(kept.name) and other.is_dir():
            shutil.rmtree(other, ignore_errors=True)
