package ebb.service.work;

import java.util.Map;
import java.util.concurrent.atomic.AtomicLong;
import org.hibernate.StatelessSession;
import org.springframework.boot.task.SimpleAsyncTaskSchedulerCustomizer;
import org.springframework.scheduling.concurrent.SimpleAsyncTaskScheduler;
import org.springframework.stereotype.Component;

/**
 * Counts the scheduled passes that run at this moment. A pass takes work from one state to the
 * next, and between the two the tables may show nothing to do.
 */
@Component
final class ScheduledPasses implements SimpleAsyncTaskSchedulerCustomizer, RunningWork {
  private final AtomicLong count = new AtomicLong();

  @Override
  public void customize(SimpleAsyncTaskScheduler scheduler) {
    scheduler.setTaskDecorator(
        task ->
            () -> {
              count.incrementAndGet();
              try {
                task.run();
              } finally {
                count.decrementAndGet();
              }
            });
  }

  @Override
  public Map<String, Long> running(StatelessSession session) {
    return Map.of("scheduled passes", count.get());
  }
}
