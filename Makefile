# Two commands matter: `make demo` and `make test`. Each does all of the set-up by itself.
SHELL := /bin/bash
BIN := .venv/bin
INSTALLED := .venv/.installed
STAMP := .venv/.ready
FORMS := src/bralto/core/mannequin/data/sculpt.toml src/bralto/core/mannequin/body/sculpt.py \
  src/bralto/core/mannequin/body/skins.py src/bralto/stand/model/form/mesh.py

.PHONY: demo test lint types imports unit shots bench survive simulate intervals accidents sheets habits learners marking sightings portraits action light places example setup schema clean

setup: $(STAMP)

$(INSTALLED): requirements.lock pyproject.toml tools/setup.sh
	@bash tools/setup.sh
	@touch $@

# The figure's forms take seconds to make: once here, or every first look at the model would do it.
$(STAMP): $(INSTALLED) $(FORMS)
	@$(BIN)/python -m tools.forms_ahead
	@touch $@

# With a display the window stays open; without one each place is shown once under Xvfb.
demo: $(STAMP)
	@bash tools/with_display.sh $(BIN)/bralto demo

test: lint types imports unit

lint: $(STAMP)
	$(BIN)/ruff check .
	$(BIN)/ruff format --check .

types: $(STAMP)
	$(BIN)/mypy

imports: $(STAMP)
	$(BIN)/lint-imports

# A file of tests goes to one process, so that what its tests share is made once; two processes, as
# each of them uses several threads for pictures. In the order of the folders: by number of tests,
# which is the other way, the longest single ones would come last and leave one process idle. What
# pytest makes of their asserts is kept, also where Python is told to keep nothing that it compiles:
# for each process that is half of what loading all files takes.
unit: $(STAMP)
	PYTHONDONTWRITEBYTECODE= QT_QPA_PLATFORM=offscreen \
	  $(BIN)/python -m pytest -n 2 --dist loadfile --no-loadscope-reorder

shots: $(STAMP)
	QT_QPA_PLATFORM=offscreen $(BIN)/python -m tools.shots docs/screenshots

# The picture of the worked example on the empty shelf.
example: $(STAMP)
	QT_QPA_PLATFORM=offscreen $(BIN)/python -m tools.first_picture

bench: $(STAMP)
	QT_QPA_PLATFORM=offscreen $(BIN)/python -m bench.run

# Kills, full disks, damage and hostile files; ten minutes.
survive: $(STAMP)
	$(BIN)/python -m bench.survive

# What the corrections make of known faults; ten minutes.
simulate: $(STAMP)
	OPENBLAS_NUM_THREADS=1 $(BIN)/python -m bench.simulate

# How often their intervals hold, with enough drawings to tell; a quarter of an hour.
intervals: $(STAMP)
	OPENBLAS_NUM_THREADS=1 $(BIN)/python -m bench.intervals

# What is doubted of marks and photos; five minutes.
accidents: $(STAMP)
	OPENBLAS_NUM_THREADS=1 $(BIN)/python -m bench.accidents

# Sheets of paper found in simulated photos; five minutes.
sheets: $(STAMP)
	$(BIN)/python -m bench.sheets

# The model drawn with known habits, photographed, measured: 400 drawings, each marked three times; twelve minutes.
habits: $(STAMP)
	$(BIN)/python -m bench.habits

# What the record tells of simulated learners; about an hour on two cores.
learners: $(STAMP)
	OPENBLAS_NUM_THREADS=1 $(BIN)/python -m bench.learners

# A simulated hand marks studies through the real window; forty minutes.
marking: $(STAMP)
	OPENBLAS_NUM_THREADS=1 $(BIN)/python -m bench.marking

# Figures sighted from life by a simulated pencil; forty minutes on two cores.
sightings: $(STAMP)
	OPENBLAS_NUM_THREADS=1 $(BIN)/python -m bench.sightings

# Heads sighted from life by a pencil of plain geometry; a quarter of an hour.
portraits: $(STAMP)
	OPENBLAS_NUM_THREADS=1 $(BIN)/python -m bench.portraits

# How much of a bend a simulated learner kept, and how surely that is told; seven minutes.
action: $(STAMP)
	OPENBLAS_NUM_THREADS=1 $(BIN)/python -m bench.action

# Known shifts, losses and inventions of shadow found in simulated drawings; one minute.
light: $(STAMP)
	OPENBLAS_NUM_THREADS=1 $(BIN)/python -m bench.light

# Where the marks of each view usually lie, from the model by chance; two minutes.
places: $(STAMP)
	OPENBLAS_NUM_THREADS=1 $(BIN)/python -m tools.typical_places
	OPENBLAS_NUM_THREADS=1 $(BIN)/python -m tools.average_head

schema: $(STAMP)
	$(BIN)/python -m tools.write_schema

clean:
	rm -rf .venv build .pytest_cache .mypy_cache .ruff_cache
