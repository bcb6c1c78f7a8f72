package org.orderlyferry.format;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.concurrent.atomic.AtomicInteger;
import org.junit.jupiter.api.Test;

class OpenedFilesTest {

    private final AtomicInteger opened = new AtomicInteger();
    private final AtomicInteger closed = new AtomicInteger();

    private final class Book implements OpenedFiles.Opened {

        Book() {
            opened.incrementAndGet();
        }

        @Override
        public void close() {
            closed.incrementAndGet();
        }
    }

    @Test
    void oneThatIsBackIsTakenAgainAndOneThatIsReadIsNot() {
        try (OpenedFiles files = new OpenedFiles()) {
            OpenedFiles.Lent<Book> first = files.take(Book.class, Book::new);
            OpenedFiles.Lent<Book> second = files.take(Book.class, Book::new);
            assertThat(second.opened()).isNotSameAs(first.opened());
            first.close();
            OpenedFiles.Lent<Book> third = files.take(Book.class, Book::new);
            assertThat(third.opened()).isSameAs(first.opened());
            // whoever closes twice gives nothing back that another has now
            first.close();
            OpenedFiles.Lent<Book> fourth = files.take(Book.class, Book::new);
            assertThat(fourth.opened()).isNotSameAs(third.opened());
            assertThat(opened).hasValue(3);
            second.close();
            third.close();
            assertThat(closed).hasValue(0);
            fourth.close();
        }
        assertThat(closed).hasValue(3);
    }

    @Test
    void whatComesBackLateIsClosed() {
        OpenedFiles files = new OpenedFiles();
        OpenedFiles.Lent<Book> late = files.take(Book.class, Book::new);
        files.close();
        assertThat(closed).hasValue(0);
        late.close();
        assertThat(closed).hasValue(1);
        files.take(Book.class, Book::new).close();
        assertThat(closed).hasValue(2);
    }

    @Test
    void whereNobodyKeepsAnythingItIsClosedAtOnce() {
        OpenedFiles.NONE.take(Book.class, Book::new).close();
        OpenedFiles.NONE.take(Book.class, Book::new).close();
        assertThat(opened).hasValue(2);
        assertThat(closed).hasValue(2);
    }
}
