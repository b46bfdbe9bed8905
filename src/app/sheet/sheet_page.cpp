#include "app/sheet/sheet_page.hpp"

#include <QApplication>
#include <QLabel>
#include <QPainter>
#include <QPainterPath>
#include <QPushButton>
#include <QTimer>
#include <QToolButton>
#include <QVBoxLayout>

#include "app/parts/button_icon.hpp"
#include "app/parts/form_popup.hpp"
#include "app/sheet/beginnings.hpp"
#include "app/sheet/heading_block.hpp"
#include "app/sheet/heading_menu.hpp"
#include "app/theme/look.hpp"
#include "app/theme/popup_menu.hpp"

namespace plume::app {
namespace {

constexpr int lane_right = 33, lane_width = 9, lane_count = 3;
constexpr int node_reach = 8;  // of a node, and of the bend beside it

}  // namespace

// Lies over the blocks, so that threads run on across the mark of the selected step.
class ThreadMargin : public QWidget {
public:
    explicit ThreadMargin(SheetPage& page) : QWidget(&page), page_(page) {
        setAttribute(Qt::WA_TransparentForMouseEvents);
    }

protected:
    void paintEvent(QPaintEvent* event) override {
        QPainter painter(this);
        page_.paint_threads(painter, event->rect());
    }

private:
    SheetPage& page_;
};

SheetPage::SheetPage(Document& document, Page page, QWidget* parent)
    : QWidget(parent), document_(document), page_(page) {
    setObjectName(page == Page::sheet ? "page" : "hand-off-page");
    column_ = new QVBoxLayout(this);
    column_->setContentsMargins(0, page == Page::sheet ? 16 : 0, 0, 24);
    column_->setSpacing(0);
    title_ = new QLabel;
    title_->setContentsMargins(margin_width, 0, 14, 0);
    title_->setCursor(Qt::PointingHandCursor);
    title_->setWordWrap(true);
    title_->setToolTip(tr("Double-click to change title and note"));
    note_ = new QLabel;
    note_->setContentsMargins(margin_width, 2, 14, 8);
    note_->setWordWrap(true);
    note_->setProperty("second", true);
    headings_ = new QToolButton;
    headings_->setObjectName("headings");
    headings_->setFixedSize(24, 24);
    headings_->setIconSize({16, 16});
    headings_->setProperty("quiet", true);
    headings_->setToolTip(tr("Go to a heading (Ctrl+Shift+G)"));
    headings_->setAccessibleName(tr("Go to a heading"));
    connect(headings_, &QToolButton::clicked, this, &SheetPage::open_headings);
    auto* title_row = new QHBoxLayout;
    title_row->setContentsMargins(0, 0, 10, 0);
    title_row->addWidget(title_, 1);
    title_row->addWidget(headings_, 0, Qt::AlignTop);
    column_->addLayout(title_row);
    column_->addWidget(note_);
    controls_column_ = new QVBoxLayout;
    controls_column_->setSpacing(1);
    column_->addLayout(controls_column_);
    add_control_ = new QPushButton(tr("Add a control"));
    add_control_->setFlat(true);
    add_control_->setObjectName("add-control");
    add_control_->setCursor(Qt::PointingHandCursor);
    connect(add_control_, &QPushButton::clicked, this,
            [this] { open_control_form(document_, {}, add_control_); });
    auto* add_row = new QHBoxLayout;
    add_row->setContentsMargins(margin_width - 8, 0, 0, 4);
    add_row->addWidget(add_control_);
    add_row->addStretch();
    column_->addLayout(add_row);
    if (page == Page::hand_off)
        for (QWidget* of_the_sheet : {static_cast<QWidget*>(title_), static_cast<QWidget*>(note_),
                                      static_cast<QWidget*>(add_control_), static_cast<QWidget*>(headings_)})
            of_the_sheet->hide();
    beginnings_ = new Beginnings(document.catalogue(), this);
    beginnings_->hide();
    connect(beginnings_, &Beginnings::wanted, this, [this](const std::string& kind, const QString& slot) {
        // Its places are known once it was laid out.
        if (SlotPart* part = begin_with(kind, slot)) QTimer::singleShot(0, part, &SlotPart::open);
    });
    connect(beginnings_, &Beginnings::dragged, this,
            [this](const std::string& kind, const QString& slot, QPointF at) {
                if (auto* number = qobject_cast<NumberPart*>(begin_with(kind, slot)))
                    QTimer::singleShot(0, number, [number, at] { number->take_drag(at); });
            });
    column_->addWidget(beginnings_);
    items_column_ = new QVBoxLayout;
    items_column_->setSpacing(0);
    column_->addLayout(items_column_);
    continue_ = new ContinueBox(document, page, this);
    items_column_->addWidget(continue_);
    column_->addStretch(1);
    margin_ = new ThreadMargin(*this);
    connect(continue_, &ContinueBox::left, this, &SheetPage::take_study);
    connect(continue_, &ContinueBox::up_wanted, this, &SheetPage::focus_above_continue);
    connect(continue_, &ContinueBox::opened, this,
            [this] { QTimer::singleShot(0, this, [this] { Q_EMIT show_wanted(continue_); }); });
    // Numbers of items say nothing across studies.
    connect(&document, &Document::replaced, this, &SheetPage::drop_blocks);
    connect(&document, &Document::study_changed, this, &SheetPage::take_study);
    connect(&document.results(), &Results::evaluation_changed, this, &SheetPage::refresh_blocks);
    connect(&document.results(), &Results::in_hand_changed, this, &SheetPage::refresh_blocks);
    connect(&document.results(), &Results::notes_changed, this, &SheetPage::tell_why);
    connect(&document.attention(), &Attention::selection_changed, this, [this] {
        continue_->refresh();
        for (auto& [id, block] : blocks_)
            block->update();
        margin_->update();
    });
    take_study();
}

std::span<const Item> SheetPage::items() const {
    const Study& study = document_.study();
    const std::size_t begin = study.page_begin(page_);
    return std::span(study.items).subspan(begin, study.page_end(page_) - begin);
}

void SheetPage::take_study() {
    if (page_ == Page::sheet) take_head();
    sync_blocks();
    refresh_blocks();
    threads_ = threads();
}

void SheetPage::take_head() {
    const Study& study = document_.study();
    title_->setFont(text_font(17, QFont::DemiBold));
    title_->setText(text_of(study.title));
    note_->setFont(text_font(12));
    note_->setText(study.note.empty() && study.items.empty()
                       ? tr("An empty page. Begin with a sentence, or open one of the studies beside it.")
                       : text_of(study.note));
    note_->setVisible(!note_->text().isEmpty());
    beginnings_->setVisible(study.items.empty());
    set_icon(*headings_, "headings", look().second_ink);
    headings_->setVisible(std::ranges::any_of(items(), [](const Item& item) { return heading_of(item); }));
    sync_controls();
}

SlotPart* SheetPage::begin_with(const std::string& kind, const QString& slot) {
    const Study& study = document_.study();
    const Result<Added> added =
        add_step(study, document_.catalogue(), *document_.catalogue().find(kind), study.page_end(page_));
    if (!added) document_.show_message(text_of(sentence(added.error())));
    if (!added || !document_.apply(added->study, tr("new step"))) return nullptr;
    document_.attention().select(added->id);
    go_to_selected();
    StepBlock* block = step_block(added->id);
    return block ? block->sentence().part(text_of(slot)) : nullptr;
}

void SheetPage::sync_controls() {
    const auto& controls = document_.study().controls;
    while (controls_.size() > controls.size()) {
        controls_.back()->deleteLater();
        controls_.back()->hide();
        controls_.pop_back();
    }
    for (std::size_t index = 0; index < controls.size(); ++index) {
        if (index == controls_.size()) {
            controls_.push_back(new ControlRow(document_, controls[index]->name, this));
            controls_column_->addWidget(controls_.back());
        } else {
            controls_[index]->set_name(controls[index]->name);
        }
    }
}

void SheetPage::drop_blocks() {
    for (const auto& [id, block] : blocks_) {
        block->hide();
        block->deleteLater();
    }
    blocks_.clear();
    order_.clear();
    hovered_ = 0;
}

void SheetPage::sync_blocks() {
    std::vector<ItemId> order;
    for (const Item& item : items())
        order.push_back(id_of(item));
    for (auto entry = blocks_.begin(); entry != blocks_.end();) {
        if (std::ranges::find(order, entry->first) != order.end()) {
            ++entry;
            continue;
        }
        entry->second->hide();
        entry->second->deleteLater();
        entry = blocks_.erase(entry);
    }
    for (const Item& item : items()) {
        ItemBlock*& block = blocks_[id_of(item)];
        if (block) continue;
        if (step_of(item))
            block = new StepBlock(document_, id_of(item), this);
        else
            block = new HeadingBlock(document_, id_of(item), this);
        if (auto* step = qobject_cast<StepBlock*>(block)) {
            connect(step, &StepBlock::language_help_wanted, this, &SheetPage::language_help_wanted);
            connect(step, &StepBlock::step_wanted, this, [this](ItemId wanted) {
                if (StepBlock* other = step_block(wanted)) {
                    other->setFocus(Qt::OtherFocusReason);
                    Q_EMIT show_wanted(other);
                }
            });
        }
        const ItemId id = id_of(item);
        connect(block, &ItemBlock::insert_wanted, this, &SheetPage::begin_insert);
        connect(block, &ItemBlock::focus_neighbour_wanted, this,
                [this, id](int direction, bool extend) { focus_neighbour(id, direction, extend); });
        connect(block, &ItemBlock::hovered, this, [this, id](bool inside) {
            hovered_ = inside ? id : 0;
            margin_->update();
        });
    }
    order_ = order;
    const std::size_t first = document_.study().page_begin(page_), end = first + order.size();
    const std::size_t continue_at = std::clamp(continue_->position().value_or(end), first, end) - first;
    int row = 0;
    QWidget* before = add_control_;
    const auto put = [&](QWidget* widget) {
        if (items_column_->indexOf(widget) != row) {
            items_column_->removeWidget(widget);
            items_column_->insertWidget(row, widget);
        }
        ++row;
        setTabOrder(before, widget);
        before = widget;
    };
    for (std::size_t index = 0; index <= order.size(); ++index) {
        if (index == continue_at) put(continue_);
        if (index < order.size()) put(blocks_.at(order[index]));
    }
}

void SheetPage::refresh_blocks() {
    // Else the whole page would be laid out for each block that comes into it.
    column_->setEnabled(false);
    bool laid_out = true;
    HeadingBlock* heading = nullptr;
    bool folded = false;
    HeadingBlock::Folded away;
    for (const Item& item : items()) {
        const auto found = blocks_.find(id_of(item));
        if (found == blocks_.end()) continue;
        if (const Heading* now = heading_of(item)) {
            if (heading) heading->set_folded(away);
            heading = static_cast<HeadingBlock*>(found->second);
            folded = now->folded;
            away = {};
        } else if (folded) {
            const Shown* shown = document_.results().shown(id_of(item));
            ++away.steps;
            if (shown && shown->error && shown->state == StepState::failed) ++away.wrong;
            if (shown && shown->value) away.last = id_of(item);
        }
        const bool visible = heading_of(item) != nullptr || !folded;
        laid_out = laid_out && found->second->isHidden() != visible;
        found->second->setVisible(visible);
        found->second->refresh();
    }
    if (heading) heading->set_folded(away);
    column_->setEnabled(true);
    if (!laid_out) column_->activate();
    for (ControlRow* row : controls_)
        row->refresh();
    continue_->refresh();
    margin_->raise();
    margin_->update();
}

// What is asked anew is shown where it stands.
void SheetPage::tell_why() {
    const auto& all = document_.results().told_why();
    if (all.empty() && told_.empty()) return;
    std::vector<AskedPart> now;
    now.reserve(all.size());
    for (const ToldWhy& told : all)
        now.push_back(told.asked);
    for (const auto& [id, block] : blocks_)
        if (auto* step = qobject_cast<StepBlock*>(block)) step->refresh_why();
    const bool asked_anew = now.size() >= told_.size() && now != told_;
    told_ = std::move(now);
    StepBlock* asked = asked_anew ? step_block(told_.back().step) : nullptr;
    if (asked) QTimer::singleShot(0, asked, [this, asked] { Q_EMIT show_wanted(asked); });
}

StepBlock* SheetPage::step_block(ItemId step) const {
    const auto found = blocks_.find(step);
    StepBlock* block = found == blocks_.end() ? nullptr : qobject_cast<StepBlock*>(found->second);
    if (block) block->fill();
    return block;
}

// Those that were filled may be higher than expected, and push others out of sight, never into it.
void SheetPage::fill_seen() {
    const QRect seen = visibleRegion().boundingRect();
    // Until it is as high as it has to be, all of them are squeezed into what is seen.
    if (seen.isEmpty() || height() < layout()->totalMinimumHeightForWidth(width())) return;
    const QRect near_by = seen.adjusted(0, -seen.height() / 2, 0, seen.height());
    for (const ItemId id : order_) {
        auto* block = qobject_cast<StepBlock*>(blocks_.at(id));
        if (block && !block->filled() && block->isVisible() && block->geometry().intersects(near_by))
            block->fill();
    }
}

void SheetPage::moveEvent(QMoveEvent* event) {
    QWidget::moveEvent(event);
    fill_seen();
}

// Once it was laid out, it is known what is in sight.
bool SheetPage::event(QEvent* event) {
    const bool taken = QWidget::event(event);
    if (event->type() == QEvent::LayoutRequest || event->type() == QEvent::Show) fill_seen();
    return taken;
}

void SheetPage::go_to_selected() {
    go_to(document_.attention().selected());
}

void SheetPage::go_to(ItemId item) {
    const auto found = blocks_.find(item);
    if (found == blocks_.end()) return;
    found->second->setFocus(Qt::OtherFocusReason);
    Q_EMIT show_wanted(found->second);
}

void SheetPage::open_headings() {
    QMenu* menu = new_popup_menu(this);
    fill_heading_menu(*menu, items(), [this](ItemId heading) {
        document_.attention().select(heading);
        go_to(heading);
    });
    // Below its button, or where the page begins that is seen.
    const QRect seen = visibleRegion().boundingRect();
    const bool at_button = !headings_->visibleRegion().isEmpty();
    menu->popup(at_button ? headings_->mapToGlobal(QPoint(0, headings_->height()))
                          : mapToGlobal(seen.topLeft() + QPoint(margin_width, 8)));
}

const ControlRow* SheetPage::control_in_hand() const {
    for (const ControlRow* row : controls_)
        if (row->isAncestorOf(QApplication::focusWidget())) return row;
    return nullptr;
}

void SheetPage::begin_insert(std::size_t position) {
    continue_->set_position(position);
    sync_blocks();
    continue_->start();
}

void SheetPage::focus_neighbour(ItemId item, int direction, bool extend) {
    const auto at = std::ranges::find(order_, item);
    if (at == order_.end()) return;
    const bool found = focus_from((at - order_.begin()) + direction, direction, extend);
    // Below the last one, what comes next is found.
    if (!found && direction > 0 && !extend) continue_->take_keyboard();
}

bool SheetPage::focus_from(std::ptrdiff_t index, int direction, bool extend) {
    for (; index >= 0 && index < static_cast<std::ptrdiff_t>(order_.size()); index += direction) {
        ItemBlock* block = blocks_.at(order_[static_cast<std::size_t>(index)]);
        if (!block->isVisible()) continue;
        if (extend)
            document_.attention().extend_selection(block->item());
        else
            document_.attention().select(block->item());
        block->setFocus(Qt::TabFocusReason);
        Q_EMIT show_wanted(block);
        return true;
    }
    return false;
}

void SheetPage::focus_above_continue() {
    const std::size_t first = document_.study().page_begin(page_);
    const std::size_t above = continue_->position().value_or(first + order_.size()) - first;
    focus_from(static_cast<std::ptrdiff_t>(above) - 1, -1, false);
}

void SheetPage::edit_title() {
    auto* form = new FormPopup(title_, tr("Study"));
    QLineEdit* title = form->add_line(tr("Title"), text_of(document_.study().title));
    QLineEdit* note = form->add_line(tr("Note"), text_of(document_.study().note),
                                     tr("what it is, for whoever reads it later"));
    note->setMinimumWidth(300);
    form->open(tr("Set title"), [this, title, note]() -> QString {
        document_.apply(set_title(document_.study(), text_of(title->text()), text_of(note->text())),
                        tr("change of title"));
        return {};
    });
}

void SheetPage::mousePressEvent(QMouseEvent* event) {
    if (title_->geometry().contains(event->pos()) ||
        (note_->isVisible() && note_->geometry().contains(event->pos())))
        edit_title();
    else
        document_.attention().select(0);
}

void SheetPage::changeEvent(QEvent* event) {
    if (event->type() == QEvent::PaletteChange) take_study();
    QWidget::changeEvent(event);
}

// Threads -------------------------------------------------------------------------------------------------

int SheetPage::node_y(ItemId item) const {
    const auto found = blocks_.find(item);
    if (found == blocks_.end() || !found->second->isVisible()) return -1;
    return found->second->y() + found->second->node_y();
}

// One thread a result that is read, on the lane nearest to the text that is free over its whole length.
std::vector<SheetPage::Thread> SheetPage::threads() const {
    std::vector<Thread> result;
    const Study& study = document_.study();
    // What is handed off reads from another page.
    if (page_ == Page::hand_off) return result;
    std::array<std::size_t, lane_count> busy_until{};
    // Asked result by result, whose names stand in formulas too, it would take the square of the steps.
    std::map<std::string, std::vector<std::size_t>, std::less<>> readers;
    for (std::size_t at = 0; at < study.page_end(Page::sheet); ++at)
        if (const Step* step = step_of(study.items[at]))
            for (const std::string& name : results_read(study, *step))
                if (auto& all = readers[name]; all.empty() || all.back() != at) all.push_back(at);
    QColor colour = look().threads[0];
    for (std::size_t at = 0; at < study.page_end(Page::sheet); ++at) {
        if (const Heading* heading = heading_of(study.items[at])) colour = look().thread(heading->colour);
        const Step* step = step_of(study.items[at]);
        if (!step) continue;
        Thread thread{step->id, {}, colour, 0};
        std::size_t last = at;
        for (const std::size_t reader : readers[step->name]) {
            thread.readers.push_back(id_of(study.items[reader]));
            last = std::max(last, reader);
        }
        if (thread.readers.empty()) continue;
        int lane = 0;
        while (lane + 1 < lane_count && busy_until[static_cast<std::size_t>(lane)] > at)
            ++lane;
        busy_until[static_cast<std::size_t>(lane)] =
            std::max(busy_until[static_cast<std::size_t>(lane)], last);
        thread.lane = lane;
        result.push_back(std::move(thread));
    }
    return result;
}

bool SheetPage::lit(const Thread& thread) const {
    const ItemId wanted = hovered_ != 0 ? hovered_ : document_.attention().selected();
    return wanted != 0 &&
           (thread.from == wanted || std::ranges::find(thread.readers, wanted) != thread.readers.end());
}

void SheetPage::resizeEvent(QResizeEvent* /*event*/) {
    margin_->setGeometry(0, 0, margin_width, height());
    fill_seen();
}

// What is out of sight is not drawn: a page may be as long as a hundred windows.
void SheetPage::paint_threads(QPainter& painter, const QRect& seen) const {
    painter.setRenderHint(QPainter::Antialiasing);
    const bool any_lit = std::ranges::any_of(threads_, [this](const Thread& t) { return lit(t); });
    for (const Thread& thread : threads_) {
        const int from = node_y(thread.from);
        if (from < 0) continue;
        QColor colour = thread.colour;
        const bool strong = lit(thread);
        if (any_lit && !strong) colour.setAlphaF(0.35F);
        painter.setPen(QPen(colour, strong ? 2.4 : 1.6, Qt::SolidLine, Qt::RoundCap));
        painter.setBrush(Qt::NoBrush);
        const double x = lane_right - thread.lane * lane_width;
        for (const ItemId reader : thread.readers) {
            const int to = node_y(reader);
            if (to < 0 || from > seen.bottom() + node_reach || to < seen.top() - node_reach) continue;
            QPainterPath path(QPointF(lane_right, from));
            if (thread.lane > 0) path.quadTo(x, from, x, from + 8);
            path.lineTo(x, to - 8);
            path.quadTo(x, to, lane_right, to);
            painter.drawPath(path);
        }
    }
    QColor colour = look().threads[0];
    for (const Item& item : items()) {
        if (const Heading* heading = heading_of(item)) colour = look().thread(heading->colour);
        const Step* step = step_of(item);
        const int y = step ? node_y(step->id) : -1;
        if (y < seen.top() - node_reach || y > seen.bottom() + node_reach || y < 0) continue;
        const Shown* shown = document_.results().shown(step->id);
        const bool wrong = shown && shown->error && shown->state != StepState::cancelled &&
                           document_.results().in_hand() != step->id;
        const QColor ring = wrong ? look().attention : (step->muted ? look().second_ink : colour);
        painter.setPen(QPen(ring, 2, step->muted ? Qt::DotLine : Qt::SolidLine));
        painter.setBrush(document_.attention().selected() == step->id ? ring : look().page);
        if (wrong)
            painter.drawRect(
                QRectF(lane_right - 4.5, y - 4.5, 9, 9));  // a shape of its own, not only a colour
        else
            painter.drawEllipse(QPointF(lane_right, y), 5, 5);
    }
}

}  // namespace plume::app
