package ebb.store;

import static org.assertj.core.api.Assertions.assertThat;

import ebb.core.feed.Feed;
import ebb.core.feed.Origin;
import ebb.core.feed.Timetable;
import ebb.core.imports.Missing;
import ebb.store.feeds.Feeds;
import ebb.store.push.Resource;
import ebb.store.push.Resources;
import ebb.store.push.Resources.Membership;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Collection;
import java.util.List;
import java.util.Optional;
import java.util.concurrent.Callable;
import java.util.concurrent.CountDownLatch;
import java.util.concurrent.Executors;
import org.testng.annotations.AfterMethod;
import org.testng.annotations.BeforeMethod;
import org.testng.annotations.Test;

/** What is pushed, until a delivery is made of it. */
public class ResourcesTest {
  private static final Instant NOW = Instant.parse("2026-11-27T10:00:00Z");

  private final Resources resources = new Resources();
  private Database database;

  @BeforeMethod
  void open() {
    database = TestDatabase.inMemory();
    var feed =
        new Feed(
            "hr",
            new Origin(Origin.Kind.PUSH, null),
            new Timetable(null, null, null, null),
            false,
            Missing.Decision.UNDECIDED,
            Feed.State.ON,
            0);
    database.writeAll(session -> new Feeds().put(session, feed, null));
  }

  @AfterMethod
  void close() {
    database.close();
  }

  @Test
  public void howFarDeliveriesWereMadeNeverGoesBack() {
    assertThat(taken()).isZero();
    database.writeAll(session -> resources.take(session, "hr", 7));
    database.writeAll(session -> resources.take(session, "hr", 3));
    database.writeAll(
        session -> new Feeds().put(session, new Feeds().get(session, "hr").orElseThrow(), null));
    assertThat(taken()).isEqualTo(7);
  }

  private long taken() {
    return database.read(session -> resources.taken(session, "hr"));
  }

  @Test
  public void whatIsBeyondTheMarkWaitsInTheOrderOfItsWriting() {
    put(user("a", "1"));
    var second = put(user("b", "2"));
    put(again(find("a").orElseThrow()));

    assertThat(after(0)).containsExactly("b", "a");
    assertThat(after(second.number())).containsExactly("a");
    var waiting = waiting("hr", second.number()).orElseThrow();
    assertThat(waiting.count()).isEqualTo(1);
    assertThat(waiting("hr", waiting.last())).isEmpty();
    assertThat(waiting("crew", 0)).isEmpty();
  }

  @Test
  public void oneThatIsDeletedIsNotFoundButStillDelivered() {
    var one = put(user("a", "1"));
    database.writeAll(session -> resources.put(session, one.gone(NOW)));

    assertThat(find("a")).isEmpty();
    long count = database.read(session -> resources.count(session, "hr", Resource.Kind.USER));
    assertThat(count).isZero();
    assertThat(after(one.number())).containsExactly("a");
    put(user("b", "1"));
    assertThat(after(0))
        .as("whoever comes back under the key takes its place")
        .containsExactly("b");
  }

  @Test
  public void whoComesBackIsInTheGroupsOfBeforeNoMore() {
    var one = put(user("a", "1"));
    var group = put(group("g"));
    members(group, List.of("a"), false);
    database.writeAll(session -> resources.put(session, one.gone(NOW)));
    var mark = waiting("hr", 0).orElseThrow().last();

    put(user("b", "1"));
    assertThat(memberships(mark)).containsExactly(new Membership("g", "1", true));
    members(group, List.of("b"), false);
    assertThat(memberships(mark)).containsExactly(new Membership("g", "1", false));
    Collection<String> members = database.read(session -> resources.members(session, "g"));
    assertThat(members).containsExactly("b");
  }

  @Test
  public void numbersGrowInTheOrderInWhichTheyCanBeSeen() throws Exception {
    var isWritten = new CountDownLatch(1);
    try (var threads = Executors.newFixedThreadPool(2)) {
      Callable<Long> slow =
          () ->
              database.write(
                  session -> {
                    resources.inTurn(session, "hr");
                    var number = resources.put(session, user("slow", "1")).number();
                    isWritten.countDown();
                    sleep();
                    return number;
                  });
      Callable<Long> quick =
          () -> {
            isWritten.await();
            return database.write(
                session -> {
                  resources.inTurn(session, "hr");
                  return resources.put(session, user("quick", "2")).number();
                });
          };
      var first = threads.submit(slow);
      var second = threads.submit(quick);
      assertThat(second.get()).isGreaterThan(first.get());
      assertThat(after(0)).containsExactly("slow", "quick");
    }
  }

  private static void sleep() {
    try {
      Thread.sleep(200);
    } catch (InterruptedException e) {
      throw new IllegalStateException(e);
    }
  }

  private List<String> after(long mark) {
    var ids = new ArrayList<String>();
    database.read(
        session -> {
          resources.eachAfter(
              session, "hr", Resource.Kind.USER, mark, resource -> ids.add(resource.id()));
          return null;
        });
    return ids;
  }

  private List<Membership> memberships(long mark) {
    var all = new ArrayList<Membership>();
    database.read(
        session -> {
          resources.eachMembershipAfter(session, "hr", mark, all::add);
          return null;
        });
    return all;
  }

  private void members(Resource group, List<String> members, boolean gone) {
    database.writeAll(
        session -> {
          resources.putMembers(session, group, members, gone);
          resources.put(
              session,
              again(resources.get(session, "hr", Resource.Kind.GROUP, group.id()).orElseThrow()));
        });
  }

  private Optional<Resources.Waiting> waiting(String source, long mark) {
    return database.read(session -> resources.waiting(session, source, mark));
  }

  private Optional<Resource> find(String id) {
    return database.read(session -> resources.get(session, "hr", Resource.Kind.USER, id));
  }

  private Resource put(Resource resource) {
    return database.write(session -> resources.put(session, resource));
  }

  private static Resource again(Resource one) {
    return new Resource(
        one.id(),
        one.source(),
        one.kind(),
        one.uniqueName(),
        one.externalId(),
        one.key(),
        one.formerKey(),
        "{\"again\": true}",
        false,
        one.createdAt(),
        NOW,
        one.version(),
        one.number());
  }

  private static Resource user(String id, String key) {
    return resource(id, Resource.Kind.USER, key);
  }

  private static Resource group(String id) {
    return resource(id, Resource.Kind.GROUP, id);
  }

  private static Resource resource(String id, Resource.Kind kind, String key) {
    return new Resource(id, "hr", kind, id, null, key, null, "{}", false, NOW, NOW, 0, 0);
  }
}
