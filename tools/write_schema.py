"""Writes the published JSON Schema of the study file from its models (`make schema`)."""

import json
from pathlib import Path

from bralto.exchange.study_file import study_schema

TARGET = Path(__file__).parents[1] / "src/bralto/exchange/study.schema.json"

if __name__ == "__main__":
    TARGET.write_text(json.dumps(study_schema(), indent=1) + "\n", "utf-8")
    print(TARGET)
