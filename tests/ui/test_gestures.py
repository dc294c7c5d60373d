"""Mouse gestures, without a mouse."""

from __future__ import annotations

from bralto.ui.boards.hands.gestures import Drag, Drop, Gesture, Hold, Pan, SetMark


def hit(at: tuple[float, float]) -> str | None:
    return "chin" if abs(at[0] - 50) < 10 and abs(at[1] - 50) < 10 else None


def test_a_click_beside_every_mark_sets_one_even_with_a_slip() -> None:
    gesture = Gesture(hit)
    gesture.press((100, 100))
    assert gesture.move((102, 102)) is None
    assert gesture.release((102, 102)) == SetMark((100, 100))


def test_a_drag_beside_every_mark_pans_and_sets_nothing() -> None:
    gesture = Gesture(hit)
    gesture.press((100, 100))
    assert gesture.move((110, 100)) == Pan((10, 0))
    assert gesture.move((110, 130)) == Pan((0, 30))
    assert gesture.release((110, 130)) is None


def test_a_mark_keeps_its_distance_from_the_pointer_that_drags_it() -> None:
    gesture = Gesture(hit)
    gesture.press((53, 48), grip=(50, 50))
    assert gesture.key == "chin"
    assert gesture.move((73, 68)) == Drag("chin", (70, 70))
    assert gesture.release((83, 78)) == Drop("chin", (80, 80))
    assert not gesture.active


def test_a_press_on_a_mark_takes_it_in_hand() -> None:
    gesture = Gesture(hit)
    gesture.press((53, 48), grip=(50, 50))
    assert gesture.release((53, 48)) == Hold("chin")


def test_the_middle_button_only_pans() -> None:
    gesture = Gesture(hit)
    gesture.press((50, 50), pan=True)
    assert gesture.release((50, 50)) is None


def test_a_cancelled_drag_says_what_to_put_back() -> None:
    gesture = Gesture(hit)
    gesture.press((50, 50), grip=(50, 50))
    gesture.move((90, 90))
    assert gesture.cancel() == "chin"
    assert gesture.move((95, 95)) is None
    assert gesture.release((95, 95)) is None


def test_where_a_mark_is_asked_for_a_click_on_another_sets_it_and_a_drag_moves_that() -> None:
    gesture = Gesture(hit)
    gesture.press((53, 48), grip=(50, 50), sets=True)
    assert gesture.release((54, 48)) == SetMark((53, 48))
    gesture.press((53, 48), grip=(50, 50), sets=True)
    assert gesture.move((73, 68)) == Drag("chin", (70, 70))
    assert gesture.release((83, 78)) == Drop("chin", (80, 80))
