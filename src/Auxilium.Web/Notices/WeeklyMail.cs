using System.Text;
using Auxilium.Planning.Words;
using Auxilium.Storage;
using Auxilium.Storage.Notices;
using Auxilium.Storage.Tracking;
using Auxilium.Web.Mail;
using Auxilium.Web.Pages.Now;
using Auxilium.Web.Pages.Projects;
using Microsoft.EntityFrameworkCore;

namespace Auxilium.Web.Notices;

/// <summary>
/// The mail that coordinators get on the day of the week they chose: how each of their projects does, and what needs them.
/// </summary>
internal sealed class WeeklyMail(IDbContextFactory<AuxiliumDb> databases, NowQuery query, Letters letters, OwnAddress address)
{
    /// <summary>Of each part, so many lines are written.</summary>
    private const int MostLines = 10;

    /// <summary>Writes the mails that are due on a day, to each person once.</summary>
    public async Task WriteAsync(DateOnly today, CancellationToken cancel)
    {
        Dates.SpeakOn(today);
        await using var db = await databases.CreateDbContextAsync(cancel);
        var people = await db
            .Users.AsNoTracking()
            .Where(u => u.NoticeWishes != null && u.Email != null && (u.WeeklyOn == null || u.WeeklyOn < today))
            .Select(u => new
            {
                u.Id,
                u.Email,
                u.IsOrganiser,
                u.NoticeWishes,
            })
            .ToListAsync(cancel);
        foreach (var person in people)
        {
            var wishes = NoticeWishes.Read(person.NoticeWishes);
            if (wishes.WeeklyOn != today.DayOfWeek)
                continue;
            var claimed = await db
                .Users.Where(u => u.Id == person.Id && (u.WeeklyOn == null || u.WeeklyOn < today))
                .ExecuteUpdateAsync(u => u.SetProperty(x => x.WeeklyOn, today), cancel);
            if (claimed == 0)
                continue;
            var now = await query.OfAsync(person.Id, person.IsOrganiser, wishes.DriftDays, cancel);
            if (now.Projects.Count > 0)
                await letters.SendAsync(person.Email!, $"Your projects on {Dates.Day(today)}", Body(now), cancel);
        }
    }

    private string Body(NowAnswer now)
    {
        var text = new StringBuilder();
        foreach (var project in now.Projects.Select(known => new ProjectSummary(known)))
        {
            string[] said = [$"{project.Progress}% done", project.Dates, project.Spare ?? "", project.Drift ?? ""];
            text.Append(project.Name).Append(": ").AppendJoin(", ", said.Where(s => s.Length > 0)).Append(".\n");
        }
        foreach (var section in now.List.Sections)
        {
            text.Append($"\n{section.Title} ({section.All})\n");
            foreach (var task in section.Tasks.Take(MostLines))
                text.Append($"  – {task.Name}: {task.Words}, {task.ProjectName}, {task.Who}{task.Holds}\n");
            if (section.All > MostLines)
                text.Append($"  and {section.All - MostLines} more\n");
        }
        return text.Append($"\n{address.Of("/")}\n").ToString();
    }
}
