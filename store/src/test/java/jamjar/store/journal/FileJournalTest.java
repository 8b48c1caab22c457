package jamjar.store.journal;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import jamjar.store.journal.Journal.Batch;
import jamjar.store.journal.Journal.Entry;
import jamjar.store.journal.Journal.Loss;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.SplittableRandom;
import java.util.concurrent.CompletableFuture;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

class FileJournalTest {
  private static final long PLENTY = 1 << 20;
  private final FailingFiles files = new FailingFiles(new SplittableRandom(1));

  @Test
  void what_was_appended_is_read_in_order_across_segments_and_after_it_was_opened_again()
      throws IOException {
    FileJournal journal = new FileJournal(files, 100, PLENTY);
    for (int i = 0; i < 50; i++) {
      journal.append(bytes("entry " + i));
    }
    assertThat(files.names()).hasSizeGreaterThan(5);
    FileJournal again = new FileJournal(files, 100, PLENTY);
    assertThat(again.end()).isEqualTo(journal.end());
    List<String> all = all(again, 0);
    assertThat(all).hasSize(50).startsWith("entry 0").endsWith("entry 49");
    Entry tenth = entries(again, 0).get(10);
    assertThat(all(again, tenth.at())).hasSize(40).startsWith("entry 10");
    assertThat(again.read(again.end(), 1_000)).isEqualTo(new Batch(List.of(), again.end()));
  }

  @Test
  void one_longer_than_is_read_at_once_or_than_a_segment_is_read_whole() throws IOException {
    FileJournal journal = new FileJournal(files, 100, PLENTY);
    journal.append(bytes("short"));
    journal.append(new byte[5_000]);
    journal.append(bytes("after"));
    assertThat(entries(journal, 0))
        .extracting(entry -> entry.bytes().length)
        .containsExactly(5, 5_000, 5);
  }

  @Test
  void a_segment_is_forgotten_once_all_of_it_is() throws IOException {
    FileJournal journal = new FileJournal(files, 100, PLENTY);
    for (int i = 0; i < 50; i++) {
      journal.append(bytes("entry " + i));
    }
    Entry some = entries(journal, 0).get(30);
    journal.forget(some.at());
    assertThat(journal.first()).isPositive().isLessThanOrEqualTo(some.at());
    assertThat(all(journal, some.at())).hasSize(20);
    journal.forget(journal.end());
    assertThat(files.names()).hasSize(1);
    assertThat(journal.losses()).isEmpty();
    // positions go on where they were
    long end = journal.end();
    assertThat(new FileJournal(files, 100, PLENTY).end()).isEqualTo(end);
  }

  @Test
  void a_full_one_loses_the_oldest_and_says_so() throws IOException {
    FileJournal journal = new FileJournal(files, 100, 1_000);
    for (int i = 0; i < 200; i++) {
      journal.append(bytes("entry " + i));
    }
    List<Loss> losses = journal.losses();
    assertThat(losses).isNotEmpty().allMatch(loss -> loss.why().equals("the journal was full"));
    assertThat(losses.get(losses.size() - 1).to()).isEqualTo(journal.first());
    assertThat(journal.end() - journal.first()).isLessThanOrEqualTo(1_100);
    assertThat(all(journal, 0)).endsWith("entry 199");
    assertThat(journal.losses()).isEmpty();
  }

  @Test
  void what_can_t_be_deleted_is_not_lost_and_goes_when_it_can() throws IOException {
    FileJournal journal = new FileJournal(files, 100, 1_000);
    files.undeletable(true);
    for (int i = 0; i < 200; i++) {
      journal.append(bytes("entry " + i));
    }
    assertThat(all(journal, 0)).hasSize(200);
    assertThatThrownBy(() -> journal.forget(500)).hasMessageContaining("not permitted");
    assertThat(all(journal, 0)).hasSize(200);
    assertThat(journal.losses()).isEmpty();
    files.undeletable(false);
    for (int i = 0; i < 20; i++) {
      journal.append(bytes("entry " + (200 + i)));
    }
    assertThat(journal.end() - journal.first()).isLessThanOrEqualTo(1_100);
    List<Loss> losses = journal.losses();
    assertThat(losses.get(0).from()).isZero();
    assertThat(losses.get(losses.size() - 1).to()).isEqualTo(journal.first());
  }

  @Test
  void an_end_that_was_not_written_whole_is_cut() throws IOException {
    FileJournal journal = new FileJournal(files, PLENTY, PLENTY);
    journal.append(bytes("whole"));
    long end = journal.end();
    journal.append(bytes("broken off"));
    files.open(files.names().get(0)).cut(end + 5);
    FileJournal again = new FileJournal(files, PLENTY, PLENTY);
    assertThat(again.end()).isEqualTo(end);
    assertThat(again.losses()).extracting(Loss::from).containsExactly(end);
    again.append(bytes("next"));
    assertThat(all(again, 0)).containsExactly("whole", "next");
  }

  @Test
  void a_damaged_one_loses_the_rest_of_its_segment_and_says_so() throws IOException {
    FileJournal journal = new FileJournal(files, 100, PLENTY);
    for (int i = 0; i < 20; i++) {
      journal.append(bytes("entry " + i));
    }
    files.damage(files.names().get(1), 10);
    List<String> all = all(journal, 0);
    assertThat(all).doesNotHaveDuplicates().startsWith("entry 0").endsWith("entry 19");
    assertThat(all.size()).isBetween(10, 19);
    assertThat(journal.losses())
        .singleElement()
        .satisfies(loss -> assertThat(loss.why()).contains("check sum"));
  }

  @Test
  void several_append_while_one_reads_and_forgets(@TempDir Path folder) throws Exception {
    FileJournal journal = new FileJournal(new LocalFiles(folder), 10_000, 100 * PLENTY);
    int writers = 4;
    int each = 2_000;
    List<CompletableFuture<Void>> all = new ArrayList<>();
    for (int w = 0; w < writers; w++) {
      int mine = w;
      all.add(
          CompletableFuture.runAsync(
              () -> {
                for (int i = 0; i < each; i++) {
                  append(journal, mine + " " + i);
                  if (i % 500 == 0) {
                    // whoever is interrupted does not close it for the others
                    Thread.currentThread().interrupt();
                    append(journal, mine + " interrupted " + i);
                    assertThat(Thread.interrupted()).isTrue();
                  }
                }
              }));
    }
    List<String> read = new ArrayList<>();
    long at = 0;
    while (read.size() < writers * (each + each / 500)) {
      Batch batch = journal.read(at, 5_000);
      batch.entries().forEach(entry -> read.add(text(entry)));
      at = batch.next();
      journal.forget(at);
    }
    CompletableFuture.allOf(all.toArray(CompletableFuture[]::new)).get();
    assertThat(read).doesNotHaveDuplicates();
    assertThat(read.stream().filter(line -> line.matches("2 \\d+")).map(line -> line.substring(2)))
        .extracting(Integer::parseInt)
        .isSorted()
        .hasSize(each);
    journal.sync();
    journal.close();
    try (var left = Files.list(folder)) {
      assertThat(left).hasSize(1);
    }
  }

  @Test
  void one_that_is_too_long_is_refused() throws IOException {
    FileJournal journal = new FileJournal(files, 100, PLENTY);
    assertThatThrownBy(() -> journal.append(new byte[FileJournal.LONGEST + 1]))
        .isInstanceOf(IOException.class)
        .hasMessageContaining("longer than is taken");
    assertThat(journal.end()).isZero();
  }

  private static void append(FileJournal journal, String text) {
    try {
      journal.append(bytes(text));
    } catch (IOException e) {
      throw new IllegalStateException(e);
    }
  }

  private static byte[] bytes(String text) {
    return text.getBytes(StandardCharsets.UTF_8);
  }

  private static String text(Entry entry) {
    return new String(entry.bytes(), StandardCharsets.UTF_8);
  }

  private static List<String> all(Journal journal, long from) throws IOException {
    return entries(journal, from).stream().map(FileJournalTest::text).toList();
  }

  private static List<Entry> entries(Journal journal, long from) throws IOException {
    List<Entry> all = new ArrayList<>();
    long at = from;
    for (Batch batch = journal.read(at, 64); batch.next() != at; batch = journal.read(at, 64)) {
      all.addAll(batch.entries());
      at = batch.next();
    }
    return all;
  }
}
