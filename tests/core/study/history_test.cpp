#include "core/study/edits/history.hpp"

#include "core/support.hpp"

namespace plume {
namespace {

StudyPointer titled(const std::string& title) {
    auto study = std::make_shared<Study>();
    study->title = title;
    return study;
}

TEST(History, UndoToEmptyAndRedo) {
    History history(titled("0"));
    for (int n = 1; n <= 500; ++n)
        history.commit(titled(std::to_string(n)), "edit " + std::to_string(n));
    EXPECT_EQ(history.undo_label(), "edit 500");
    while (history.can_undo())
        history.undo();
    EXPECT_EQ(history.current()->title, "0");
    EXPECT_EQ(history.redo_label(), "edit 1");
    while (history.can_redo())
        history.redo();
    EXPECT_EQ(history.current()->title, "500");
    history.redo();
    EXPECT_EQ(history.current()->title, "500");
}

TEST(History, ADragIsOneEdit) {
    History history(titled("start"));
    for (int n = 0; n < 50; ++n)
        history.commit(titled("drag " + std::to_string(n)), "drag", "stroke");
    history.end_stroke();
    history.commit(titled("second drag"), "drag", "stroke");
    history.undo();
    EXPECT_EQ(history.current()->title, "drag 49");
    history.undo();
    EXPECT_EQ(history.current()->title, "start");
    EXPECT_FALSE(history.can_undo());
}

TEST(History, AnEditAfterUndoDropsWhatWasUndone) {
    History history(titled("a"));
    history.commit(titled("b"), "b");
    history.undo();
    history.commit(titled("c"), "c");
    EXPECT_FALSE(history.can_redo());
    history.undo();
    EXPECT_EQ(history.current()->title, "a");
}

TEST(History, KnowsWhatIsSaved) {
    History history(titled("a"));
    EXPECT_TRUE(history.saved());
    history.commit(titled("b"), "b");
    EXPECT_FALSE(history.saved());
    history.mark_saved();
    history.undo();
    EXPECT_FALSE(history.saved());
    history.redo();
    EXPECT_TRUE(history.saved());
}

}  // namespace
}  // namespace plume
