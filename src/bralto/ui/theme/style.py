"""The style sheet for the ordinary widgets, made from the tokens."""

from __future__ import annotations

from pathlib import Path

from bralto.ui.theme.tokens import Tokens
from bralto.ui.theme.type import Size

__all__ = ["style_sheet"]


def style_sheet(t: Tokens) -> str:
    """Qt style sheet of a theme."""
    icons = Path(__file__).parent / "icons"
    arrow, up, tick = ((icons / f"{way}-{t.name}.svg").as_posix() for way in ("down", "up", "tick"))
    return f"""
    * {{ color: {t.ink}; }}
    QMainWindow, QDialog, QWidget#ground {{ background: {t.ground}; }}
    QScrollArea, QScrollArea > QWidget > QWidget {{ background: {t.ground}; border: none; }}
    QListView {{ background: {t.ground}; border: none; outline: none; }}
    QListView#heard {{ background: transparent; }}
    QListWidget, QPlainTextEdit {{ background: {t.slip}; border: 1px solid {t.hair}; padding: 4px;
        selection-background-color: {t.ink}; selection-color: {t.sheet}; }}
    QListWidget::item {{ padding: 5px 6px; }}
    QListWidget::item:selected {{ background: {t.ink}; color: {t.sheet}; }}
    QToolTip {{ background: {t.slip}; color: {t.ink}; border: 1px solid {t.hair}; padding: 4px; }}
    QWidget#apart, QFrame#doubt {{ background: {t.slip}; border-left: 4px solid {t.ochre}; }}
    QFrame#way {{ background: {t.slip}; border: 1px solid {t.hair}; border-radius: 2px; }}
    QLabel#heading {{ font-size: {Size.TITLE}px; font-weight: 700; }}
    QLabel#framed {{ border: 1px solid {t.hair}; }}
    QLabel#note {{ color: {t.ink2}; font-size: {Size.NOTE}px; }}
    QLabel#trouble {{ color: {t.red}; }}
    QLabel#panel {{ font-size: {Size.PANEL}px; font-weight: 700; }}
    QLineEdit, QComboBox, QAbstractSpinBox {{ background: {t.sheet}; border: none;
        border-bottom: 2px solid {t.hair}; padding: 5px 6px;
        selection-background-color: {t.ink}; selection-color: {t.sheet}; }}
    QLineEdit:focus, QComboBox:focus, QAbstractSpinBox:focus {{ border-bottom-color: {t.ink}; }}
    QLineEdit:disabled, QComboBox:disabled, QAbstractSpinBox:disabled {{ color: {t.hair};
        background: {t.ground}; }}
    QComboBox::drop-down {{ border: none; width: 24px; }}
    QComboBox::down-arrow {{ image: url({arrow}); width: 12px; height: 8px; }}
    QAbstractSpinBox::up-button, QAbstractSpinBox::down-button {{ border: none; width: 22px; }}
    QAbstractSpinBox::up-arrow {{ image: url({up}); width: 12px; height: 8px; }}
    QAbstractSpinBox::down-arrow {{ image: url({arrow}); width: 12px; height: 8px; }}
    QLabel#slot {{ background: {t.slip}; border: 1px dashed {t.hair}; color: {t.ink2};
        font-size: {Size.NOTE}px; }}
    QComboBox QAbstractItemView, QMenu {{ background: {t.slip}; border: 1px solid {t.hair};
        selection-background-color: {t.ink}; selection-color: {t.sheet}; }}
    QMenu::item {{ padding: 5px 22px; }}
    QMenu::item:selected {{ background: {t.ink}; color: {t.sheet}; }}
    QPushButton {{ background: {t.slip}; border: 1px solid {t.hair}; border-radius: 2px;
        padding: 6px 16px; }}
    QPushButton:hover, QPushButton:focus {{ border-color: {t.ink}; background: {t.here}; }}
    QPushButton:default {{ background: {t.ink}; color: {t.sheet}; }}
    QPushButton#word {{ border: none; border-bottom: 2px solid transparent; background: transparent;
        padding: 4px 8px; color: {t.ink2}; }}
    QPushButton#word:hover, QPushButton#word:focus {{ border-bottom-color: {t.hair}; }}
    QPushButton#word:checked {{ color: {t.ink}; font-weight: 700; border-bottom-color: {t.ink}; }}
    QPushButton#figure {{ padding: 6px 0; }}
    QPushButton#other {{ padding: 6px 4px; }}
    QPushButton#figure:checked {{ background: {t.ink}; color: {t.sheet}; font-weight: 700; }}
    QAbstractSpinBox#small {{ padding: 1px 4px; }}
    QSlider::groove:horizontal {{ background: {t.hair}; height: 1px; }}
    QSlider::handle:horizontal {{ background: {t.ink}; width: 8px; height: 16px; margin: -8px 0;
        border-radius: 2px; }}
    QSlider::handle:horizontal:focus {{ background: {t.here}; border: 2px solid {t.ink}; }}
    QSlider::handle:horizontal:disabled {{ background: {t.hair}; }}
    QCheckBox {{ spacing: 8px; }}
    QCheckBox::indicator {{ width: 14px; height: 14px; border: 1px solid {t.ink2};
        border-radius: 2px; background: {t.sheet}; }}
    QCheckBox::indicator:hover, QCheckBox::indicator:focus {{ border-color: {t.ink}; }}
    QCheckBox::indicator:checked {{ image: url({tick}); }}
    QCheckBox::indicator:indeterminate {{ background: {t.hair}; }}
    QCheckBox::indicator:disabled {{ border-color: {t.hair}; }}
    QPushButton:disabled {{ color: {t.hair}; background: {t.ground}; border-color: {t.hair}; }}
    QScrollBar:vertical {{ background: transparent; width: 10px; margin: 0; }}
    QScrollBar::handle:vertical {{ background: {t.hair}; border-radius: 3px; min-height: 32px;
        margin: 0 2px; }}
    QScrollBar:horizontal {{ background: transparent; height: 10px; margin: 0; }}
    QScrollBar::handle:horizontal {{ background: {t.hair}; border-radius: 3px; min-width: 32px;
        margin: 2px 0; }}
    QScrollBar::add-line, QScrollBar::sub-line {{ height: 0; width: 0; }}
    QScrollBar::add-page, QScrollBar::sub-page {{ background: transparent; }}
    """
