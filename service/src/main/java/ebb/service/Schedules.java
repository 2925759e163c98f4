package ebb.service;

import org.springframework.boot.autoconfigure.condition.ConditionalOnBooleanProperty;
import org.springframework.context.annotation.Configuration;
import org.springframework.scheduling.annotation.EnableScheduling;

/**
 * What runs in the background runs at its times; with ebb.scheduled=false only when it is called.
 */
@Configuration
@EnableScheduling
@ConditionalOnBooleanProperty(name = "ebb.scheduled", matchIfMissing = true)
class Schedules {}
